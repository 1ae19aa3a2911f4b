import { writers } from '@zygopod/code/constants';
import { type Case, type ConstantValue, cases, type GameUnits, mergeHeads, plainUnits, readUnits, unitsWord } from '@zygopod/core';
import { atom } from 'nanostores';
import { remember, rememberedJson } from '../controls/remember.ts';
import { askServer, whyOf } from '../work/server.ts';

/** A hand-off as the server keeps it. */
export interface KeptHandOff {
  id: string;
  createdAt: string;
  tuning: { id: string; revision: number; name: string };
  changedSince: boolean;
  to: string;
  units: string;
  label: string;
  /** Where in the project's folder each saved revision writes it. */
  path?: string;
  style?: string;
  all?: boolean;
  values: Record<string, ConstantValue>;
}

/** The parts of a tuning that can be handed over. */
export const parts = { code: 'In your code', numbers: 'Numbers', motion: 'Motion code', formulas: 'Formulas', checks: 'Checks' } as const;
export type Part = keyof typeof parts;

/** A file that the server has made, with its place in a folder. */
export interface GeneratedFile {
  path: string;
  text: string;
}

/** Has the server make files of a tuning as it is now: its motion in a language, or a folder of checks. */
export async function generateFiles(path: 'code' | 'checks', body: object): Promise<{ files: GeneratedFile[] } | { why: string }> {
  const answer = await askServer<{ files: GeneratedFile[] }>('POST', `/api/v1/${path}`, { body });
  return 'body' in answer ? { files: answer.body.files } : { why: whyOf(answer) ?? 'it could not be created' };
}

/** How a tuning is to be handed over: as what, in which units and names. */
export interface Choice {
  to: string;
  units: GameUnits;
  style: Case | null;
  all: boolean;
}

const keyOf = (project: string) => `zygopod-hand-off:${project}`;

/** The choice of the last hand-off in this project: kept in this browser, else as the last one that the server knows, else plain. */
export function choiceOf(project: string, kept: readonly KeptHandOff[]): Choice {
  const last = kept.find(({ to }) => to !== 'source');
  const plain: Choice = { to: last?.to ?? 'c', units: plainUnits, style: null, all: false };
  const lastUnits = readUnits(last?.units ?? '');
  if (typeof lastUnits !== 'string') plain.units = lastUnits;
  const chosen = rememberedJson(keyOf(project)) as Record<'to' | 'units' | 'style' | 'all', unknown> | null;
  const units = readUnits(String(chosen?.units ?? ''));
  if (!chosen || typeof units === 'string') return plain;
  return {
    to: writers.find(({ id }) => id === chosen.to)?.id ?? plain.to,
    units,
    style: cases.find((style) => style === chosen.style) ?? null,
    all: chosen.all === true,
  };
}

export const keepChoice = (project: string, { to, units, style, all }: Choice): void =>
  remember(keyOf(project), JSON.stringify({ to, units: unitsWord(units), style, all }));

/** The game's names for parameters, and the project version they come from. */
interface ProjectNames {
  names: Record<string, string>;
  version: number;
}

/** A tuning's hand-offs and its project's names, as the server stores them. */
export class HandOffs {
  readonly $kept = atom<readonly KeptHandOff[]>([]);
  readonly $names = atom<Readonly<Record<string, string>>>({});
  readonly $why = atom<string | null>(null);
  readonly #tuning: string;
  readonly #project: string;
  #version = 1;

  constructor(tuning: string, project: string) {
    this.#tuning = tuning;
    this.#project = project;
  }

  async load(): Promise<void> {
    const [handed, project] = await Promise.all([
      askServer<{ items: KeptHandOff[] }>('GET', `/api/v1/handoffs?tuning=${this.#tuning}`),
      askServer<ProjectNames>('GET', `/api/v1/projects/${this.#project}`),
    ]);
    this.$why.set(whyOf(handed) ?? whyOf(project));
    if ('body' in handed) this.$kept.set(handed.body.items);
    if (!('body' in project)) return;
    this.#version = project.body.version;
    this.$names.set(project.body.names);
  }

  /** Keeps a hand-off; it is the last one from now on. */
  async keep(handOff: Omit<KeptHandOff, 'id' | 'createdAt'>): Promise<void> {
    const answer = await askServer<KeptHandOff>('POST', '/api/v1/handoffs', { body: handOff });
    this.$why.set(whyOf(answer));
    // Asked for twice at once, it is kept once.
    if ('body' in answer) this.$kept.set([answer.body, ...this.$kept.get().filter(({ id }) => id !== answer.body.id)]);
  }

  /** Keeps what the game calls parameters, with the project. */
  async rename(names: Record<string, string>): Promise<void> {
    const from = this.$names.get();
    for (let wanted = names, tries = 0; ; tries++) {
      const answer = await askServer<ProjectNames>('PUT', `/api/v1/projects/${this.#project}`, {
        body: { names: wanted },
        seen: this.#version,
      });
      this.$why.set(whyOf(answer));
      if ('body' in answer) {
        this.#version = answer.body.version;
        this.$names.set(answer.body.names);
        return;
      }
      // Somebody else named others meanwhile: those stay.
      const current = answer.is === 'conflict' ? (answer.problem['current'] as ProjectNames | undefined) : undefined;
      if (!current || tries > 5) return;
      this.#version = current.version;
      const of = (own: Record<string, string>) => ({ name: '', unit: 'px' as const, names: own });
      wanted = { ...mergeHeads(of(from), of(names), of(current.names)).head.names };
    }
  }
}
