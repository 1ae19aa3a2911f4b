import { atom } from 'nanostores';
import { remember } from '../controls/remember.ts';

/** The inks of the chart, read from the style sheet, for what is drawn on canvas. */
export interface Inks {
  sheet: string;
  paper: string;
  ink: string;
  inkSoft: string;
  rule: string;
  now: string;
  route: string;
  other: string;
  stamina: string;
  staminaInk: string;
  solid: string;
  hatch: string;
  water: string;
  wave: string;
}

export type Theme = 'day' | 'night';

/** The theme in force. */
export const $theme = atom<Theme>(
  typeof document === 'undefined' ? 'day' : ((document.documentElement.dataset['theme'] as Theme | undefined) ?? 'day'),
);

export function switchTheme(): void {
  const next: Theme = $theme.get() === 'day' ? 'night' : 'day';
  document.documentElement.dataset['theme'] = next;
  remember('zygopod-theme', next);
  $theme.set(next);
}

/** The inks of the theme in force. */
export function readInks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const ink = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    sheet: ink('sheet'),
    paper: ink('paper'),
    ink: ink('ink'),
    inkSoft: ink('ink-soft'),
    rule: ink('rule'),
    now: ink('now'),
    route: ink('route'),
    other: ink('other'),
    stamina: ink('stamina'),
    staminaInk: ink('stamina-ink'),
    solid: ink('solid'),
    hatch: ink('hatch'),
    water: ink('water'),
    wave: ink('wave'),
  };
}
