import type { Inks } from '../chart/theme.ts';

/** Distinguishing ink, mark and curve dashes of each side, in the order of the sides. */
export interface SideMark {
  shape: 'circle' | 'square' | 'triangle' | 'diamond';
  ink: keyof Pick<Inks, 'ink' | 'other' | 'route' | 'staminaInk'>;
  /** The same ink as a style's name. */
  text: string;
  dash: readonly number[];
}

const sideMarks: readonly SideMark[] = [
  { shape: 'circle', ink: 'ink', text: 'text-ink', dash: [] },
  { shape: 'square', ink: 'other', text: 'text-other', dash: [4, 3] },
  { shape: 'triangle', ink: 'route', text: 'text-route', dash: [1.5, 2.5] },
  { shape: 'diamond', ink: 'staminaInk', text: 'text-stamina-ink', dash: [7, 3, 1.5, 3] },
];

export const markOfSide = (index: number): SideMark => sideMarks[index % sideMarks.length] as SideMark;

/** The corners of a mark about (0, 0), its size being the distance of its edges or corners; none for a circle. */
export function markCorners(shape: SideMark['shape'], size: number): readonly (readonly [number, number])[] {
  switch (shape) {
    case 'circle':
      return [];
    case 'square':
      return [
        [-size, -size],
        [size, -size],
        [size, size],
        [-size, size],
      ];
    case 'triangle':
      return [
        [0, -size * 1.2],
        [size * 1.15, size * 0.9],
        [-size * 1.15, size * 0.9],
      ];
    case 'diamond':
      return [
        [0, -size * 1.35],
        [size * 1.35, 0],
        [0, size * 1.35],
        [-size * 1.35, 0],
      ];
  }
}
