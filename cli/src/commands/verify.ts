import { newGround, rerun, shortNumber, verifyTrace } from '@zygopod/core';
import { groundFile, readText, tapeFile, tuningFile } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';

interface VerifyOptions {
  trace: string;
  tape: string;
  tuning: string;
  ground?: string;
  slack: string;
  json?: boolean;
}

/** Compares a game's trace with the model's. */
export async function verify(options: VerifyOptions): Promise<number> {
  const slack = Number(options.slack);
  if (!(slack >= 0)) throw new Misuse(`--slack: found ${options.slack}, expected a number from 0 on`);
  const { parameters, file } = tuningFile(options.tuning);
  const ground = options.ground === undefined ? newGround('Open', file.unit) : groundFile(options.ground);
  const { trace } = rerun(tapeFile(options.tape), parameters, ground);
  const found = verifyTrace(trace, readText(options.trace), slack);
  if (typeof found === 'string') throw new Misuse(`${options.trace}: ${found}`);
  if (found.rows === 0)
    throw new Misuse(`${options.trace}: found no row of a tick of the tape, expected ticks from -1 to ${trace.end - trace.first - 2}`);
  const { first, most, rows, columns, left, missing, firstMissing } = found;
  if (options.json) process.stdout.write(`${JSON.stringify(found)}\n`);
  else if (!first) process.stdout.write(`${rows} rows match the model: ${columns.join(', ')}\n`);
  else {
    const { tick, time, column, model, game, by, stage } = first;
    process.stdout.write(
      `first at tick ${tick} (${time.toFixed(3)} s): ${column} is ${shortNumber(game, 6)}, in the model ${shortNumber(model, 6)}, off by ${shortNumber(by, 6)}: it looks like ${stage}\n`,
    );
    for (const one of most) process.stdout.write(`most at tick ${one.tick}: ${one.column} off by ${shortNumber(one.by, 6)}\n`);
  }
  if (missing > 0) process.stderr.write(`${missing} ticks of the model have no row, the first of them ${firstMissing}\n`);
  if (left > missing) process.stderr.write(`${left - missing} rows belong to no tick of the tape\n`);
  return first || left > 0 ? FINDING : GOOD;
}
