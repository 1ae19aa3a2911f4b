import type { GameDrive, Trace } from '@zygopod/core';
import { atom } from 'nanostores';

const apartIn = ({ game, model }: GameDrive, row: number): number =>
  model ? Math.hypot(game.at('x', row) - model.at('x', row), game.at('y', row) - model.at('y', row)) : 0;

const figure = (value: number) => (value < 10 ? value.toFixed(1) : String(Math.round(value)));

/** The drive of the open game, and the row of it that is shown. */
export class ShownDrive {
  /** The row that is shown; null: the newest. */
  readonly $held = atom<number | null>(null);
  drive: GameDrive | null = null;
  /** The model of which the largest distance is known, up to a row. */
  #known: { model: Trace | null; to: number; most: number } = { model: null, to: 0, most: 0 };

  /** Shows another drive from its newest row on. */
  show(drive: GameDrive | null): void {
    this.drive = drive;
    this.$held.set(null);
  }

  /** The row that is shown; null before there is one. */
  get row(): number | null {
    const { drive } = this;
    if (!drive?.model || drive.game.end === 0) return null;
    const newest = Math.min(drive.game.end, drive.model.end) - 1;
    const held = this.$held.get();
    return held === null ? newest : Math.min(held, newest);
  }

  /** Time of a row since the drive's beginning, s. */
  timeOf(row: number): number {
    const trace = this.drive?.game;
    return trace && trace.end > 0 ? trace.at('time', Math.min(row, trace.end - 1)) : 0;
  }

  /** Length of the drive, s. */
  get length(): number {
    return this.timeOf(Number.POSITIVE_INFINITY);
  }

  /** Shows a row, or the newest one. */
  hold(row: number | null): void {
    const end = this.drive?.game.end ?? 0;
    this.$held.set(row === null ? null : Math.max(0, Math.min(row, end - 1)));
  }

  holdAt(time: number): void {
    const trace = this.drive?.game;
    if (trace && trace.end > 0) this.hold(trace.rowAt(time));
  }

  step(rows: number): void {
    const { row } = this;
    if (row !== null) this.hold(row + rows);
  }

  /** Distance of the bodies now, and the largest so far, in words. */
  apartWords(unit: string): string {
    const { drive, row } = this;
    if (!drive?.model || row === null) return '';
    // Driven anew, it is another trace.
    if (this.#known.model !== drive.model) this.#known = { model: drive.model, to: 0, most: 0 };
    const known = this.#known;
    const end = Math.min(drive.game.end, drive.model.end);
    for (; known.to < end; known.to++) known.most = Math.max(known.most, apartIn(drive, known.to));
    return `${figure(apartIn(drive, row))} ${unit} apart, at most ${figure(known.most)} ${unit}`;
  }
}
