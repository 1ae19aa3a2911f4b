import type { FileValue } from '../tuning/schema.ts';
import { newTuning, readTuning, withValue } from '../tuning/tuning.ts';
import { type Formula, formulasOf } from './formulas.ts';
import { termText } from './text.ts';

/** Tunings that have all formulas between them, with what makes each another one. */
const variants: readonly (readonly [string, Readonly<Record<string, FileValue>>])[] = [
  [
    'a linear ramp, exact',
    { 'ramp.model': 'linear', 'clock.integration': 'exact', 'stamina.enabled': true, 'stamina.afterEmpty': 'resume' },
  ],
  ['semi-implicit ticks', { 'ramp.model': 'linear', 'clock.integration': 'semiImplicit' }],
  ['trapezoid ticks', { 'ramp.model': 'linear', 'clock.integration': 'trapezoid' }],
  ['a smooth ramp', { 'ramp.model': 'smooth' }],
  ['no ramp', { 'ramp.model': 'instant', 'route.enabled': true, 'route.arrival': 'radiusOnly' }],
  ['turning along a heading', { 'ramp.turning': 'heading' }],
  ['facing at a rate', { 'facing.turn': 'rate' }],
  ['facing with a half-life', { 'facing.turn': 'smooth' }],
  ['a shaped stick', { 'input.curve': 2 }],
  ['a box', { 'body.shape': 'box', 'route.enabled': true }],
  ['click to go', { 'route.enabled': true, 'route.brake': true }],
  ['steps from cell to cell', { scheme: 'step', 'step.diagonals': true, 'step.diagonalTime': 'scaled' }],
  ['a smooth view', { 'camera.follow': 'smooth' }],
];

function formulasWith(values: Readonly<Record<string, FileValue>>): Formula[] {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Reference')));
  if (!read.ok) throw new Error('the reference has a tuning that is none');
  return formulasOf(read.value.parameters, 'px');
}

/** All formulas in words, group by group, as Markdown: the same as for a tuning, which has its own numbers. */
export function formulaReference(): string {
  const groups = new Map<string, Map<string, string>>();
  for (const [words, values] of variants)
    for (const { group, words: left, term, note } of formulasWith(values)) {
      const line = `${left} = ${termText(term, 'words')}${note ? ` (${note})` : ''}`;
      const lines = groups.get(group) ?? new Map<string, string>();
      if (!lines.has(line)) lines.set(line, words);
      groups.set(group, lines);
    }
  const paragraphs = [...groups].flatMap(([group, lines]) => [
    '',
    `## ${group}`,
    '',
    '| formula | first of |',
    '| --- | --- |',
    ...[...lines].map(([line, words]) => `| ${line.replaceAll('|', '\\|')} | ${words} |`),
  ]);
  return `${['# Formulas', '', 'Generated from `core/src/formulas` by `./zygopod docs`; a test checks that. The Hand-off screen shows those of a tuning with its own numbers,', 'as mathematics and as Markdown.', ...paragraphs].join('\n')}\n`;
}
