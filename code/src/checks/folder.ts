import { documentText, fileStem, inMarkdown, type Tape, type TargetSet, type Tuning } from '@zygopod/core';
import { asksOf } from '../languages/made.ts';
import { motionOf, motionPrinters } from '../motion.ts';
import { modelRun } from '../proof/modelRun.ts';
import { c } from './c.ts';
import { columns } from './columns.ts';
import { csharp } from './csharp.ts';
import { lua } from './lua.ts';
import { python, pythonAdapter } from './python.ts';
import { rust } from './rust.ts';
import { typescript } from './typescript.ts';

/** The tests of a folder for a build server, in the order in which they are told. */
export const checkFiles = [typescript, c, csharp, python, lua, rust] as const;

/** A file of the folder: where it stands in it, and whether one that is there already stays (it is the game's own). */
export interface FolderFile {
  path: string;
  text: string;
  stays?: boolean;
}

const readme = (tuning: string) => `# Checks of ${inMarkdown(tuning)}

The targets, as JUnit XML:

\`\`\`sh
./zygopod drill --tuning tuning.tuning.json --targets targets.targets.json --junit feel.xml
\`\`\`

The goldens, in the language of the game; exit 1 where it parts from one of them:

| language | run in this folder |
| --- | --- |
${checkFiles.map(({ language, run }) => `| ${language} | \`${run}\` |`).join('\n')}

Each golden holds the hands of a tape, a tick a line, and where the model is after it (\`is_x\`, \`is_y\` …), where nothing is in the way.
Each test runs the model's own code (\`motion.…\`) until your movement stands in its place: \`game.py\`, and what the other tests include or
import, are yours to change.
`;

/** A golden: the hands of a tape, a tick a line, and what the model makes of them. */
function golden(tuning: Tuning, tape: Tape): string {
  const { hands, rows } = modelRun(tuning, tape);
  return [columns, ...hands.map((line, i) => [...line, ...(rows[i] as number[])])].map((cells) => `${cells.join(',')}\n`).join('');
}

/** The files of a folder for a build server. Throws `CannotHold` with what no file can hold. */
export function checkFolder(tuning: Tuning, targets: TargetSet, tapes: readonly Tape[]): FolderFile[] {
  const motion = motionOf(tuning);
  const taken = new Set<string>();
  const goldens = tapes.map((tape): FolderFile => {
    const stem = fileStem(tape.name);
    let name = stem;
    for (let times = 2; taken.has(name); times++) name = `${stem}-${times}`;
    taken.add(name);
    return { path: `goldens/${name}.csv`, text: golden(tuning, tape) };
  });
  return [
    { path: 'README.md', text: readme(tuning.file.name) },
    { path: 'tuning.tuning.json', text: documentText(tuning.file) },
    { path: 'targets.targets.json', text: documentText(targets) },
    ...goldens,
    ...motionPrinters().map((printer): FolderFile => ({ path: `motion.${printer.extension}`, text: printer.file(motion) })),
    ...checkFiles.map(({ name, text }): FolderFile => ({ path: name, text: text(asksOf(motion)) })),
    { path: pythonAdapter.name, text: pythonAdapter.text, stays: true },
  ];
}
