import { snake, snakeCased } from '../../casing/casing.ts';
import { type CheckFile, single } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';

/** The adapter between the test and the game: yours to change, never overwritten. */
const adapter = {
  name: 'game.py',
  text: snakeCased(`"""The game's own movement, called by the check. It runs the model's code until you replace it with yours."""
import motion

hands = motion.Hands()


def start():
    return motion.Body()


def tick(body, row):
    hands.held = [float(row[f"held{i}"]) for i in range(11)]
    hands.order = [float(row[f"order{i}"]) for i in range(11)]
    for column, field in (${single.map(([field]) => `("${field}", "${snake(field)}")`).join(', ')}):
        setattr(hands, field, float(row[column]))
    hands.pointed, hands.changed = row["pointed"] == "1", row["changed"] == "1"
    motion.motion_tick(body, hands)
`),
};

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.py',
  adapter,
  run: 'python3 check.py',
  text: () =>
    snakeCased(`"""Replays the goldens against the game's own movement, and reports the first difference, and its size."""
import csv
import glob
import os
import sys

import game  # start() gives a body with x, y, vx, vy ...; tick(body, row) moves it by one tick

SLACK = 1e-6
here = os.path.dirname(os.path.abspath(__file__))
failed = 0
for path in sorted(glob.glob(os.path.join(here, "goldens", "*.csv"))):
    parted = None
    with open(path) as lines:
        for tick, row in enumerate(csv.DictReader(lines)):
            if row["start"] == "1":
                body = game.start()
            game.tick(body, row)
            for column, field in (${compared.map((field) => `("is_${field}", "${snake(field)}")`).join(', ')}):
                want, got = float(row[column]), getattr(body, field, None)
                if parted is None and got is not None and not abs(got - want) <= SLACK * max(1.0, abs(want)):
                    parted = f"first at tick {tick}: {field} is {got:.9g}, in the golden {want:.9g}, off by {abs(got - want):.3g}"
    print(f"{os.path.basename(path)}: {parted or 'good'}")
    failed += parted is not None
sys.exit(1 if failed else 0)
`),
};
