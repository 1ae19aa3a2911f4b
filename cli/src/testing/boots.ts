/** A tuning's file with the numbers that tests of folders change. */
export interface Boots {
  format: string;
  version: number;
  name: string;
  unit: string;
  pace: { walkSpeed: number };
  body: { radius: number };
  ramp: { accelerate: number };
}
export const tuning = (name: string, walkSpeed = 100, radius = 10, accelerate = 900): Boots => ({
  format: 'zygopod/tuning',
  version: 2,
  name,
  unit: 'px',
  pace: { walkSpeed },
  body: { radius },
  ramp: { accelerate },
});
