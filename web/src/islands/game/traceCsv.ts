import { csvLine, type GameDrive } from '@zygopod/core';

const columns = ['x', 'y', 'vx', 'vy', 'speed', 'facing', 'gait', 'stamina'] as const;

/**
 * The game’s drive as CSV (RFC 4180), in the ground’s unit, by the game’s ticks or by time (s). `zygopod verify` reads the ticks with a tape of the
 * drive.
 */
export function traceCsv(drive: GameDrive, by: 'tick' | 'time' = 'tick'): string {
  const { game } = drive;
  const lines = [csvLine([by, ...columns])];
  // The tape of a drive begins after its first row.
  for (let row = game.first; row < game.end; row++)
    lines.push(csvLine([by === 'tick' ? row - 1 : game.at('time', row), ...columns.map((column) => game.at(column, row))]));
  return lines.join('');
}
