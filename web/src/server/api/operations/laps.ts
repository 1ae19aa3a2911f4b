import { pilotDevices, pilotLines, readGround, readTuning, sprintPolicies } from '@zygopod/core';
import { z } from 'zod';
import { driveInWorker } from '../../laps/pilot.ts';
import { judged } from '../judged.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';

/** Bytes of a body: a ground of many walls. */
const LARGEST = 4 * 1024 * 1024;
const MOST_LAPS = 200;

const file = z.record(z.string(), z.unknown()).meta({ description: 'A file of its format' });

const body = z
  .strictObject({
    tuning: file,
    ground: file.meta({ description: 'A ground with a course' }),
    device: z.enum(pilotDevices).optional().meta({ description: 'The device; by default the one that suits the tuning' }),
    reaction: z.number().min(0).max(2).default(0.2).meta({ description: 'Age of what the pilot sees, s' }),
    lookAhead: z.number().min(0).max(5).default(0.3).meta({ description: 'Travel that it looks ahead, s' }),
    line: z.enum(pilotLines).default('middle').meta({ description: 'Off walls, or the planned path itself' }),
    sprint: z.enum(sprintPolicies).default('straights').meta({ description: 'When it sprints' }),
    jitter: z.number().min(0).max(1).default(0).meta({ description: 'Relative spread of reaction, aim and key times' }),
    seed: z.int().min(0).max(2_147_483_647).default(1).meta({ description: 'Seed of the jitter; each lap has the next one' }),
    laps: z.int().min(1).max(MOST_LAPS).default(1).meta({ description: 'Number of laps' }),
  })
  .meta({ id: 'LapRequest' });

const lap = z
  .strictObject({
    finished: z.boolean(),
    time: z.number().meta({ description: 'From leaving the start to the finish, or to the end of the drive, s' }),
    gates: z.array(z.number()).meta({ description: 'Time of each crossing from the start, s' }),
    touches: z.int(),
    contactTime: z.number().meta({ description: 'Seconds in contact with walls or edges' }),
    corrections: z.number().meta({ description: 'Changes of the controls per second' }),
    distance: z.number().meta({ description: 'Distance travelled, in the ground’s unit' }),
    path: z.number().meta({ description: 'Length of the planned path, in the ground’s unit' }),
    sprint: z.number().meta({ description: 'Fraction of the time in the sprint gait' }),
    where: z.array(z.number()).length(2).optional().meta({ description: 'Where an unfinished lap ended' }),
    why: z.string().optional().meta({ description: 'Why it ended' }),
  })
  .meta({ id: 'Lap' });

const spread = z.strictObject({ median: z.number(), p10: z.number(), p90: z.number() });

const answer = lap
  .extend({
    tape: file.meta({ description: 'The first lap’s tape: it replays the lap bit for bit' }),
    laps: z.array(lap).optional().meta({ description: 'All laps, if there are several' }),
    spread: z.record(z.string(), spread).optional().meta({ description: 'Median, 10 % and 90 % of the finished laps’ numbers' }),
  })
  .meta({ id: 'Laps' });

const drive: Operation = {
  method: 'POST',
  path: '/laps',
  name: 'driveLaps',
  words: 'Has the pilot drive a tuning round the course of a ground; nothing is saved',
  body,
  largest: LARGEST,
  answers: { 200: { words: 'The first lap, finished or not, with its tape', schema: answer } },
  run: async ({ body: { tuning, ground, laps, device, ...options }, request }: OperationRequest<object, z.infer<typeof body>>) => {
    judged(readTuning(tuning), 'tuning');
    judged(readGround(ground), 'ground');
    return json(await driveInWorker({ tuning, ground, laps, options: { ...options, ...(device ? { device } : {}) } }, request.signal));
  },
};

export const lapOperations = [drive];
