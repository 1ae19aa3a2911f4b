import { documentText, freeName, type Ground, inMarkdown, isLapMetric, type Tape, type TargetSet, type Tuning } from '@zygopod/core';
import { columns } from '../golden/columns.ts';
import { modelRun } from '../golden/modelRun.ts';
import { callbacksUsed } from '../languages/program.ts';
import { motionPrinters, registry } from '../languages/registry.ts';
import { motionOf } from '../motion.ts';

/** A file of the folder: its path in it, and whether an existing one stays (it is the game's own). */
export interface FolderFile {
  path: string;
  text: string;
  stays?: boolean;
}

const readme = (tuning: string, ground: string) => `# Checks of ${inMarkdown(tuning)}

The targets, as JUnit XML:

\`\`\`sh
./zygopod drill --tuning tuning.tuning.json --targets targets.targets.json${ground} --junit feel.xml
\`\`\`

The goldens, in the language of the game; exit 1 if its motion differs from one of them:

| language | run in this folder |
| --- | --- |
${registry.map(({ title, check }) => `| ${title} | \`${check.run}\` |`).join('\n')}

Each golden holds the hands of a tape, a tick per line, and the model's state after it (\`is_x\`, \`is_y\` …), without walls.
Each test runs the model's own code (\`motion.…\`) until you replace it with your movement: \`game.py\`, and the files that the other tests
include or import, are yours to change.
`;

/** A golden: the hands of a tape, a tick per line, and the model's state after each. */
function golden(tuning: Tuning, tape: Tape): string {
  const { hands, rows } = modelRun(tuning, tape);
  return [columns, ...hands.map((line, i) => [...line, ...(rows[i] as number[])])].map((cells) => `${cells.join(',')}\n`).join('');
}

/**
 * The files of a folder for a build server. `ground` is among them if a target judges a lap on it. Throws `CannotHold` with the construct that no file can
 * hold.
 */
export function checkFolder(tuning: Tuning, targets: TargetSet, tapes: readonly Tape[], ground: Ground | null = null): FolderFile[] {
  const motion = motionOf(tuning);
  const lapGround = targets.targets.some(({ metric }) => isLapMetric(metric)) ? ground : null;
  const taken = new Set<string>();
  const goldens = tapes.map((tape): FolderFile => {
    const name = freeName(tape.name, '.csv', (free) => taken.has(free));
    taken.add(name);
    return { path: `goldens/${name}`, text: golden(tuning, tape) };
  });
  return [
    { path: 'README.md', text: readme(tuning.file.name, lapGround ? ' --ground ground.ground.json' : '') },
    { path: 'tuning.tuning.json', text: documentText(tuning.file) },
    { path: 'targets.targets.json', text: documentText(targets) },
    ...(lapGround ? [{ path: 'ground.ground.json', text: documentText(lapGround) }] : []),
    ...goldens,
    ...motionPrinters().map((printer): FolderFile => ({ path: `motion.${printer.extension}`, text: printer.file(motion) })),
    ...registry.map(({ check }): FolderFile => ({ path: check.name, text: check.text(callbacksUsed(motion)) })),
    ...registry.flatMap(({ check: { adapter } }): FolderFile[] =>
      adapter ? [{ path: adapter.name, text: adapter.text, stays: true }] : [],
    ),
  ];
}
