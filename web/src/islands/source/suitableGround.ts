import { type Ground, readGround, resolveTuning, suitsSpeed, type Terms, type TuningFile, yardFor } from '@zygopod/core';
import { createDocument, fetchDocument } from '../work/documentActions.ts';
import { inProject } from '../work/project.ts';
import { askServer } from '../work/server.ts';

/** Maximum number of grounds that are considered. */
const LOOKED_AT = 12;

/** Speeds of bodies (px/s) that the grounds that come with the application suit. */
const USUAL = { least: 40, most: 600 };

/** True if a ground is of the scale of a tuning: its unit, the game's tiles where it has any, and of an extent that fits its speed. */
function suits(ground: Ground, unit: Ground['unit'], cell: number | null, speed: number): boolean {
  return ground.unit === unit && (cell === null || ground.cell === cell) && suitsSpeed(ground, speed);
}

/**
 * The ground that a tuning from a game's code opens on: one of its project that is of its scale, else a new yard of cells of the game's tiles. Null
 * where the usual grounds are of its scale, or none could be made.
 */
export async function suitableGround(file: TuningFile, { units }: Terms): Promise<string | null> {
  const read = resolveTuning(file);
  if (!read.ok) return null;
  const { walkSpeed } = read.value.parameters.pace;
  const unit = file.unit ?? 'px';
  const cell = units.length === 'tiles' ? (unit === 'm' ? units.tile / units.metre : units.tile) : null;
  if (walkSpeed <= 0) return null;
  if (unit === 'px' && cell === null && walkSpeed >= USUAL.least && walkSpeed <= USUAL.most) return null;
  const query = new URLSearchParams({ limit: String(LOOKED_AT), ...inProject() });
  const page = await askServer<{ items: { id: string }[] }>('GET', `/api/v1/grounds?${query}`);
  if ('why' in page) return null;
  const grounds = await Promise.all(page.body.items.map(async ({ id }) => ({ id, kept: await fetchDocument('grounds', id) })));
  // The oldest is most likely to be the one that the project is about.
  const found = grounds.findLast(({ kept }) => {
    const ground = 'file' in kept ? readGround(kept.file) : null;
    return ground?.ok && suits(ground.value, unit, cell, walkSpeed);
  });
  if (found) return found.id;
  const side = cell ?? (unit === 'm' ? 1 : roundCell(walkSpeed));
  const name = cell === null ? 'Yard for a new tuning' : `Yard of ${side} ${unit} tiles`;
  const pasted = await createDocument('grounds', yardFor(name, unit, side, walkSpeed), 'Made for the scale of a pasted tuning');
  return 'id' in pasted ? pasted.id : null;
}

/** A side of cells (px) for a speed (px/s): a quarter second's walk as a power of two. */
const roundCell = (speed: number) => 2 ** Math.min(10, Math.max(0, Math.round(Math.log2(speed / 4))));
