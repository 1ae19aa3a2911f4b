import { rowsOf, specOf, stageOf, unitOf, whenWords } from './catalogue/catalogue.ts';
import { type Figure, figureTitles, type Spec } from './catalogue/specs.ts';

/** The allowed values of a row. */
function rangeOf(spec: Spec): string {
  switch (spec.kind) {
    case 'number':
      return `${spec.min} to ${spec.max}`;
    case 'choice':
      return spec.options.map((option) => `\`${option}\``).join(', ');
    case 'set':
      return `any of ${spec.options.map((option) => `\`${option}\``).join(', ')}`;
    case 'flag':
      return '`true`, `false`';
    case 'curve':
      return `points [0 to 1, ${spec.min} to ${spec.max}]`;
  }
}

/** The default of a row. */
function defaultOf(spec: Spec): string {
  if (spec.kind !== 'number' || typeof spec.default === 'number') return `\`${JSON.stringify(spec.default)}\``;
  const { of, times = 1, plus = 0 } = spec.default;
  return `\`${of}\`${times === 1 ? '' : ` × ${times}`}${plus === 0 ? '' : ` + ${plus}`}`;
}

const columns = ['path', 'called', 'unit', 'default', 'range', 'what it does', 'matters when', 'read by'];

/**
 * The reference of all parameters as Markdown, figure by figure: path, unit, default, range, help, condition, reader; generated from the catalogue
 * alone.
 */
export function parameterReference(): string {
  const lines = [
    '# Parameters',
    '',
    'Made from the catalogue (`core/src/tuning/catalogue`) by `./zygopod docs`; a test holds it to that. Lengths are in the ground’s unit, px here.',
  ];
  for (const [figure, title] of Object.entries(figureTitles)) {
    lines.push('', `## ${title}`, '', `| ${columns.join(' | ')} |`, `|${' --- |'.repeat(columns.length)}`);
    for (const path of rowsOf(figure as Figure)) {
      const spec = specOf(path);
      const unit = spec.kind === 'number' ? unitOf(spec.quantity, 'px') : '';
      const cells = [`\`${path}\``, spec.label, unit, defaultOf(spec), rangeOf(spec), spec.help, whenWords(path), stageOf(path)];
      lines.push(`| ${cells.join(' | ')} |`);
    }
  }
  return `${lines.join('\n')}\n`;
}
