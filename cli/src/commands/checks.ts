import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { documentText, fileStem, keepAsTargets, metricsOf, printable, runDrills } from '@zygopod/core';
import { compared, modelRun } from '../code/modelRun.ts';
import { motionOf, motionPrinters } from '../code/motion.ts';
import { CannotHold } from '../code/values.ts';
import { tapeFile, targetsFile, tuningFile } from '../files.ts';
import { FINDING, GOOD } from '../misuse.ts';

interface ChecksOptions {
  output: string;
  tape: string[];
  targets?: string;
}

const controls = Array.from({ length: 11 }, (_, i) => i);
/** The columns of a golden: whether a run begins, the hands, and what the model makes of them. */
const head = [
  'start',
  ...controls.map((i) => `held${i}`),
  ...controls.map((i) => `order${i}`),
  ...['pressed', 'stickX', 'stickY', 'pointX', 'pointY', 'swipe', 'spoke', 'pointed', 'changed'],
];
const HANDS = head.length;

const python = `"""Replays the goldens against the game's own movement, and says where it first parts from them, and by how much."""
import csv
import glob
import os
import sys

import game  # start() gives a body with x, y, vx, vy ...; tick(body, hands) moves it by one tick

SLACK = 1e-6
here = os.path.dirname(os.path.abspath(__file__))
failed = 0
for path in sorted(glob.glob(os.path.join(here, "goldens", "*.csv"))):
    parted = None
    for tick, row in enumerate(csv.DictReader(open(path))):
        if row["start"] == "1":
            body = game.start()
        game.tick(body, row)
        for field in (${compared.map((field) => `"${field}"`).join(', ')}):
            want, got = float(row["is_" + field]), getattr(body, field, None)
            if parted is None and got is not None and abs(got - want) > SLACK * max(1.0, abs(want)):
                parted = f"first at tick {tick}: {field} is {got:.9g}, in the golden {want:.9g}, off by {abs(got - want):.3g}"
    print(f"{os.path.basename(path)}: {parted or 'good'}")
    failed += parted is not None
sys.exit(1 if failed else 0)
`;

const adapter = `"""The game's own movement, as the check asks for it. It runs the model's code until yours stands here."""
import motion

hands = motion.Hands()


def start():
    return motion.Body()


def tick(body, row):
    hands.held = [float(row[f"held{i}"]) for i in range(11)]
    hands.order = [float(row[f"order{i}"]) for i in range(11)]
    for field in ("pressed", "stickX", "stickY", "pointX", "pointY", "swipe", "spoke"):
        setattr(hands, field, float(row[field]))
    hands.pointed, hands.changed = row["pointed"] == "1", row["changed"] == "1"
    motion.motion_tick(body, hands)
`;

const c = `/* Replays a golden against the game's own movement, and says where it first parts from it, and by how much.
   cc -O2 -ffp-contract=off check.c -lm -o check, then ./check FILE for each of the goldens. */
#include <stdio.h>
#include <stdlib.h>
/* Your own movement in place of the model's: a Body, motion_start and motion_tick. */
#include "motion.c"
#define SLACK 1e-6

int main(int count, char **names) {
    if (count < 2) return 2;
    FILE *file = fopen(names[1], "r");
    static char line[65536];
    const char *fields[] = { ${compared.map((field) => `"${field}"`).join(', ')} };
    Body b;
    Hands h;
    if (!file || !fgets(line, sizeof line, file)) return 2;
    for (int tick = 0; fgets(line, sizeof line, file); tick++) {
        double v[${HANDS + compared.length}];
        char *at = line;
        for (int i = 0; i < ${HANDS + compared.length}; i++, at++) v[i] = strtod(at, &at);
        if (v[0] != 0) motion_start(&b);
        for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
        h.pressed = v[23]; h.stickX = v[24]; h.stickY = v[25]; h.pointX = v[26]; h.pointY = v[27]; h.swipe = v[28]; h.spoke = v[29];
        h.pointed = v[30] != 0; h.changed = v[31] != 0;
        motion_tick(&b, &h, motion_free);
        const double got[] = { ${compared.map((field) => `b.${field}`).join(', ')} };
        for (int i = 0; i < ${compared.length}; i++) {
            const double want = v[${HANDS} + i], off = fabs(got[i] - want);
            if (off > SLACK * fmax(1.0, fabs(want))) {
                printf("%s: first at tick %d: %s is %.9g, in the golden %.9g, off by %.3g\\n", names[1], tick, fields[i], got[i], want, off);
                return 1;
            }
        }
    }
    printf("%s: good\\n", names[1]);
    return 0;
}
`;

const readme = (tuning: string) => `# Checks of ${tuning}

\`\`\`sh
./zygopod drill --tuning tuning.tuning.json --targets targets.targets.json --junit feel.xml   # the targets, as JUnit XML
python3 check.py                                                                               # the goldens, in Python
cc -O2 -ffp-contract=off check.c -lm -o check && for g in goldens/*.csv; do ./check "$g"; done # the same in C
\`\`\`

Each golden holds the hands of a tape, a tick a line, and where the model is after it (\`is_x\`, \`is_y\` …), where nothing is in the way.
\`game.py\` and the include in \`check.c\` run the model's own code until your movement stands there: those two places are yours to change.
`;

/** Writes the folder; what is there and yours (game.py) stays. */
export async function checks(path: string, { output, tape, targets }: ChecksOptions): Promise<number> {
  const tuning = tuningFile(path);
  let motion: ReturnType<typeof motionOf>;
  try {
    motion = motionOf(tuning);
  } catch (error) {
    if (!(error instanceof CannotHold)) throw error;
    process.stderr.write(`no goldens can be made: ${printable(error.message)}\n`);
    return FINDING;
  }
  const tapes = tape.map((one) => tapeFile(one));
  const set = targets
    ? targetsFile(targets)
    : {
        format: 'zygopod/targets',
        version: 1,
        name: `Like ${tuning.file.name}`.slice(0, 120),
        targets: keepAsTargets(metricsOf([...runDrills(tuning.parameters)])),
      };
  mkdirSync(join(output, 'goldens'), { recursive: true });
  const write = (name: string, text: string) => writeFileSync(join(output, name), text);
  write('tuning.tuning.json', documentText(tuning.file));
  write('targets.targets.json', documentText(set));
  for (const one of tapes) {
    const { hands, rows } = modelRun(tuning, one);
    const lines = hands.map((line, i) => [...line, ...(rows[i] as number[])].join(','));
    write(`goldens/${fileStem(one.name)}.csv`, `${[...head, ...compared.map((field) => `is_${field}`)].join(',')}\n${lines.join('\n')}\n`);
  }
  for (const printer of motionPrinters())
    if (printer.id === 'c' || printer.id === 'python') write(`motion.${printer.extension}`, printer.file(motion));
  write('check.py', python);
  write('check.c', c);
  write('README.md', readme(tuning.file.name));
  if (!existsSync(join(output, 'game.py'))) write('game.py', adapter);
  process.stdout.write(`${output}: ${tapes.length} goldens, ${set.targets.length} targets, tests in C and Python\n`);
  return GOOD;
}
