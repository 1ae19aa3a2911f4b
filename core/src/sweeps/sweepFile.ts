import { z } from 'zod';
import { type Format, readDocument } from '../document/document.ts';
import type { Reading } from '../document/fault.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import { newTuning, withValue } from '../tuning/tuning.ts';
import { cellsOver, MOST_CELLS, readAxis, type SweepAxis } from './axis.ts';

/** Characters of an axis at most: a list may have many values. */
const LONGEST = 40_000;

/** The parameter of a factor's axis; undefined for another axis. */
const linkOf = (text: string): string | undefined => /^\s*([\w.]+)\.times\s*=/.exec(text)?.[1];

/** Reads an axis as if its parameter were a link wherever it speaks of a factor: which tuning it is run on isn't known here. */
function axisAlone(text: string): SweepAxis | string {
  const of = linkOf(text);
  const file = newTuning('Any');
  if (of === undefined || specs.get(of)?.kind !== 'number') return readAxis(text, file);
  return readAxis(text, withValue(file, of, { of: of === 'pace.walkSpeed' ? 'pace.sprintSpeed' : 'pace.walkSpeed' }));
}

/** The part of a refusal that says what is expected. */
const expectedIn = (refusal: string): string => /expected (.+)$/s.exec(refusal)?.[1] ?? refusal;

const over = z
  .array(z.string().max(LONGEST))
  .min(1)
  .max(2)
  .superRefine((texts, context) => {
    const axes = texts.map(axisAlone);
    for (const [i, axis] of axes.entries())
      if (typeof axis === 'string') context.addIssue({ code: 'custom', path: [i], message: expectedIn(axis) });
    const read = axes.filter((axis) => typeof axis !== 'string');
    if (read.length === 2 && read[0]?.path === read[1]?.path) context.addIssue({ code: 'custom', message: 'two parameters' });
    if (cellsOver(read) > MOST_CELLS) context.addIssue({ code: 'custom', message: `at most ${MOST_CELLS} cells` });
  });

const name = z.string().trim().min(1).max(120);

const schema = z.strictObject({
  format: z.literal('zygopod/sweep'),
  version: z.literal(1),
  name: name.default('Sweep'),
  note: z.string().max(2000).default(''),
  /** The tuning that is swept, and its newest revision when the sweep was saved. */
  tuning: z.strictObject({ name, revision: z.int().min(1) }),
  /** Where laps and tapes are driven. */
  ground: name.optional(),
  /** The tapes that metrics name by their numbers: `peakSpeed@1`. */
  tapes: z.array(name).max(4).optional(),
  /** The target set. */
  targets: name.optional(),
  /** One or two axes, as `readAxis` reads them. */
  over,
  metrics: z
    .array(z.string().regex(/^[A-Za-z]\w{0,60}(\(\d{1,3}\)|@[1-9])?$/, 'the name of a metric'))
    .min(1)
    .max(12),
});

/** The definition of a sweep as a document; its results are kept apart. */
export type SweepFile = z.infer<typeof schema>;

/** The format of a sweep. */
export const sweepFormat: Format<SweepFile> = { format: 'zygopod/sweep', version: 1, migrations: [], schema };

/** Reads a parsed JSON value as a sweep. */
export const readSweep = (value: unknown): Reading<SweepFile> => readDocument(sweepFormat, value);

/** The axes of a sweep's file, each with its values. */
export const axesOf = ({ over }: SweepFile): SweepAxis[] => over.map(axisAlone).filter((axis) => typeof axis !== 'string');
