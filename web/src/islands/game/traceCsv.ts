import { csvLine, type GameDrive } from '@zygopod/core';

const columns = ['x', 'y', 'vx', 'vy', 'speed', 'facing', 'gait', 'stamina'] as const;

/** The game's drive as CSV (RFC 4180), in the ground's unit, by the game's ticks. `zygopod verify` reads it with a tape of the drive. */
export function traceCsv(drive: GameDrive): string {
  const { game } = drive;
  const lines = [csvLine(['tick', ...columns])];
  // The tape of a drive begins after its first row.
  for (let row = game.first; row < game.end; row++) lines.push(csvLine([row - 1, ...columns.map((column) => game.at(column, row))]));
  return lines.join('');
}
