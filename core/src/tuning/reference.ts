import { specs, unitOf } from './catalogue/catalogue.ts';
import { figureTitles, type Spec } from './catalogue/specs.ts';

/** What a row may hold. */
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

/** What a row is where a file says nothing. */
function defaultOf(spec: Spec): string {
  if (spec.kind !== 'number' || typeof spec.default === 'number') return `\`${JSON.stringify(spec.default)}\``;
  const { of, times = 1, plus = 0 } = spec.default;
  return `\`${of}\`${times === 1 ? '' : ` × ${times}`}${plus === 0 ? '' : ` + ${plus}`}`;
}

/** The reference of all parameters as Markdown, figure by figure: path, unit, default, range, help; made from the catalogue alone. */
export function parameterReference(): string {
  const lines = [
    '# Parameters',
    '',
    'Made from the catalogue (`core/src/tuning/catalogue`) by `./zygopod docs`; a test holds it to that. Lengths are in the ground’s unit, px here.',
  ];
  for (const [figure, title] of Object.entries(figureTitles)) {
    lines.push('', `## ${title}`, '', '| path | called | unit | default | range | what it does |', '| --- | --- | --- | --- | --- | --- |');
    for (const [path, spec] of specs)
      if (spec.figure === figure) {
        const unit = spec.kind === 'number' ? unitOf(spec.quantity, 'px') : '';
        lines.push(`| \`${path}\` | ${spec.label} | ${unit} | ${defaultOf(spec)} | ${rangeOf(spec)} | ${spec.help} |`);
      }
  }
  return `${lines.join('\n')}\n`;
}
