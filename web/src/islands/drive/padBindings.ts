import { type Control, controls } from '@zygopod/core';
import { atom } from 'nanostores';
import { z } from 'zod';
import { remember, remembered } from '../controls/remember.ts';

const padMap = z.object({
  buttons: z.record(z.string().regex(/^\d{1,3}$/), z.enum(controls)),
  stick: z.tuple([z.int().min(0).max(63), z.int().min(0).max(63)]).nullable(),
});
/** Controls of a pad's buttons by number, and its two steering axes. */
export type PadMap = z.infer<typeof padMap>;

/** The standard mapping (W3C Gamepad, 2024): the lower face button acts, the left one stops, and so on. */
export const standardMap: PadMap = {
  buttons: {
    0: 'action',
    1: 'launch',
    2: 'plant',
    3: 'autoRun',
    5: 'sprint',
    7: 'sprint',
    10: 'sprintToggle',
    12: 'up',
    13: 'down',
    14: 'left',
    15: 'right',
  },
  stick: [0, 1],
};
const unknownMap: PadMap = { buttons: {}, stick: null };

type Known = Pick<Gamepad, 'id' | 'mapping'>;

/** The kind of a pad: all with the standard mapping are alike, any other is known by its name. */
export const kindOf = ({ id, mapping }: Known): string => (mapping === 'standard' ? 'standard' : id);

const STORE = 'zygopod-pads';

/** The bindings stored in this browser, without invalid ones. */
export function readMaps(text: string | null): Readonly<Record<string, PadMap>> {
  try {
    const kept = z.record(z.string(), z.unknown()).parse(JSON.parse(text ?? '{}'));
    return Object.fromEntries(
      Object.entries(kept).flatMap(([kind, map]) => {
        const read = padMap.safeParse(map);
        return read.success ? [[kind, read.data]] : [];
      }),
    );
  } catch {
    return {};
  }
}

/** The maps that differ from the usual ones, by kind of pad; kept in this browser. */
export const $padMaps = atom<Readonly<Record<string, PadMap>>>(readMaps(remembered(STORE)));

export const mapOf = (maps: Readonly<Record<string, PadMap>>, kind: string): PadMap =>
  maps[kind] ?? (kind === 'standard' ? standardMap : unknownMap);

/** Sets the map of a kind of pad; null gives back the usual one. */
export function setPadMap(kind: string, map: PadMap | null): void {
  const { [kind]: _old, ...others } = $padMaps.get();
  const next = map ? { ...others, [kind]: map } : others;
  $padMaps.set(next);
  remember(STORE, JSON.stringify(next));
}

/** The map with a button that works a control, or none. */
export function withButton({ buttons, stick }: PadMap, button: number, control: Control | null): PadMap {
  const { [String(button)]: _old, ...others } = buttons;
  return { buttons: control ? { ...others, [String(button)]: control } : others, stick };
}

/** The buttons that work a control, by number. */
export const buttonsOf = ({ buttons }: PadMap, control: Control): number[] =>
  Object.keys(buttons)
    .filter((button) => buttons[button] === control)
    .map(Number);

const standardWords = [
  'lower',
  'right',
  'left',
  'upper',
  'left shoulder',
  'right shoulder',
  'left trigger',
  'right trigger',
  'left middle',
  'right middle',
  'left stick in',
  'right stick in',
  'cross up',
  'cross down',
  'cross left',
  'cross right',
];

/** Name of a button: its position on a standard pad, its number on any other. */
export const buttonWord = (kind: string, button: number): string =>
  (kind === 'standard' ? standardWords[button] : undefined) ?? `button ${button + 1}`;

export const stickWord = (kind: string, stick: PadMap['stick']): string =>
  !stick
    ? 'none'
    : kind === 'standard' && stick[0] < 4
      ? stick[0] === 0
        ? 'left stick'
        : 'right stick'
      : `axes ${stick[0] + 1} and ${stick[1] + 1}`;

/** Deflection of an axis that means it. */
const MEANT = 0.6;

/** The two axes of the stick that is pushed furthest, if one is. */
export function pushedStick(axes: readonly number[]): [number, number] | null {
  const furthest = axes.reduce((best, value, i) => (Math.abs(value) > Math.abs(axes[best] ?? 0) ? i : best), 0);
  if (Math.abs(axes[furthest] ?? 0) < MEANT) return null;
  const first = furthest - (furthest % 2);
  return first + 1 < axes.length ? [first, first + 1] : null;
}
