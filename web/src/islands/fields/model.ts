import { useStore } from '@nanostores/react';
import {
  type FileValue,
  heldIn,
  isLink,
  linkWords,
  numberAt,
  numberSpec,
  rawAt,
  readEntry,
  specOf,
  unitOf,
  valueAt,
  valueWords,
  writtenAt,
} from '@zygopod/core';
import { useTuning } from '../tuning/context.ts';
import type { Editing } from '../tuning/editing.ts';

/** Model of a number field; used for parameters and for derived outcomes. */
export interface FieldModel {
  /** The parameter behind it; none for an outcome. */
  path: string | null;
  label: string;
  help: string;
  unit: string;
  number: number;
  /** Link of the number in words, and the action that removes it. */
  link: { words: string; break(): void } | null;
  /** Value in the last saved revision, if it differs. */
  was: string | null;
  /** Applies an entry; returns null, or why it is refused. */
  enter(text: string): string | null;
  /** Sets the number as a drag or a nudge does. */
  put(number: number): string | null;
}

type Link = Extract<FileValue, { of: string }>;

/** A link to a number that is `source`, with which it gives another result: by its ratio or, where the ratio can’t, by what it adds. */
export function relinked(link: Link, source: number, result: number): Link {
  if (source === 0) return { ...link, plus: tidy(result) };
  return { ...link, times: Number(((result - (link.plus ?? 0)) / source).toPrecision(6)) };
}

/** Sets a number. A linked one keeps its link. */
export function putNumber(editing: Editing, path: string, number: number, what: string): string | null {
  const spec = numberSpec(path);
  const held = heldIn(spec, number);
  const raw = rawAt(editing.$now.get(), path);
  if (!isLink(raw)) return editing.set(path, tidy(held), what);
  return editing.set(path, relinked(raw, numberAt(editing.$tuning.get().parameters, raw.of), held), what);
}

/** A dragged number with no more digits than a hand can mean. */
function tidy(number: number): number {
  return Number(number.toPrecision(6));
}

/** The model of a parameter that is a number. */
export function useParameter(path: string, label = specOf(path).label): FieldModel {
  const { editing, drive } = useTuning();
  const { file, parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const spec = numberSpec(path);
  const raw = rawAt(file, path);
  const unit = drive.world.ground.unit;
  const changed = JSON.stringify(writtenAt(file, path)) !== JSON.stringify(writtenAt(before.file, path));
  const number = numberAt(parameters, path);
  return {
    path,
    label,
    help: spec.help,
    unit: unitOf(spec.quantity, unit),
    number,
    link: isLink(raw)
      ? { words: linkWords(raw), break: () => void editing.set(path, number, `break the link of ${label.toLowerCase()}`) }
      : null,
    was: changed ? valueWords(rawAt(before.file, path)) : null,
    enter: (text) => {
      const entry = readEntry(text, path, editing.$tuning.get().parameters, unit);
      if (!entry.ok) return entry.why;
      return editing.set(path, entry.value, label.toLowerCase());
    },
    put: (value) => putNumber(editing, path, value, label.toLowerCase()),
  };
}

/** The model of a number that follows from parameters: typed or dragged, it sets one of them. */
export function outcome(label: string, help: string, unit: string, number: number, put: (value: number) => string | null): FieldModel {
  return {
    path: null,
    label,
    help,
    unit,
    number,
    link: null,
    was: null,
    put,
    enter: (text) => {
      const bare = text
        .trim()
        .replace('−', '-')
        .replace(new RegExp(`\\s*${unit.replace(/[/²]/g, '\\$&')}$`), '');
      const value = Number(bare);
      if (bare === '' || !Number.isFinite(value)) return 'a number is needed';
      return put(value);
    },
  };
}

/** A parameter that isn’t a number: its value, what it was, and how to set it. */
export function useChoice(path: string): { value: unknown; was: string | null; set(value: FileValue): void } {
  const { editing } = useTuning();
  const { file, parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const spec = specOf(path);
  const same = JSON.stringify(rawAt(file, path)) === JSON.stringify(rawAt(before.file, path));
  return {
    value: valueAt(parameters, path),
    was: same ? null : valueWords(rawAt(before.file, path)),
    set: (value) => void editing.set(path, value, spec.label.toLowerCase()),
  };
}
