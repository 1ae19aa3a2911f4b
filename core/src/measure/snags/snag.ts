import type { FileValue } from '../../tuning/schema.ts';

/** Severity: wrong in any game; wrong in many; worth a look. */
export type Severity = 'fault' | 'risk' | 'hint';

/** The known faults, by their ids in files and reports, each with its name and why it matters. */
export const snagWords = {
  'speed-zero': ['A speed is 0', 'The character can’t move, or stands still when it should sprint.'],
  'sprint-not-faster': ['Sprint is not faster', 'Pressing sprint does nothing, or slows the character down.'],
  'sprint-unlinked': [
    'Restored speed isn’t linked',
    'A speed typed in two places goes stale: the end of a sprint then restores an old walk speed.',
  ],
  'sprint-on-empty': ['Sprint continues when empty', 'The bar means nothing: there is no reason to save stamina.'],
  'drain-and-regain': ['Drains and regains at once', 'The bar lasts longer than its drain says, and players can’t predict how long.'],
  'stamina-coarse': ['The bar jumps', 'Stamina changes in visible steps, and a sprint that ends within an interval pays for all of it.'],
  'sprint-relock': ['Unlocked but can’t start', 'The bar shows that sprint is back, but the key does nothing.'],
  'diagonal-fast': ['Diagonals are faster', 'Players zigzag: diagonals are 1.41 times as fast as straights.'],
  'dead-zone-none': ['No dead zone', 'A worn stick walks by itself.'],
  'clamp-centre': ['Part of the body leaves the screen', 'The edge stops the centre, so half of the character is hidden.'],
  'push-trembles': ['The push at the edge trembles', 'The next tick carries the body over the edge again.'],
  'push-pops': ['The push at the edge pops', 'The body visibly jumps.'],
  'arrive-orbits': ['Circles the point', 'Each tick carries the body past the point, so it never arrives.'],
  'arrive-overshoots': ['Overshoots the point', 'It slides past the clicked point and has to come back.'],
  'rate-dependent': ['Feels different at another rate', 'Code written per tick or per frame is twice as fast at twice the rate.'],
  'auto-run-sprints-on': ['Auto-run leaves sprint on', 'After auto-run the character sprints although no sprint key is held.'],
  'plant-resumes': ['An old click comes back', 'Releasing plant sends the character to its old destination.'],
  'facing-flickers': ['Facing flickers on a border', 'A stick held between two directions flips the pose back and forth.'],
  'facing-lost': ['Facing is lost on stopping', 'On stopping, the character turns away from where it was walking.'],
  'never-at-speed': ['Never at full speed', 'The ground has no room to reach full speed.'],
  'wall-not-solid': ['A wall isn’t solid', 'The character walks through what is drawn as solid.'],
  'seams-felt': ['Seams catch the body', 'The body catches on the joints of a flat wall.'],
  'route-straight': ['Clicks go straight into walls', 'The path to a click isn’t planned around obstacles.'],
  'start-in-wall': ['Starts in a wall', 'The character can’t move, or is pushed out in the first tick.'],
  'goal-unreachable': ['The goal can’t be reached', 'This body can’t finish this ground.'],
  'gap-too-narrow': ['A gap is too narrow', 'It looks passable, but isn’t.'],
  'gap-tight': ['A gap is tight', 'The body must enter it exactly.'],
  'cell-body-equal': ['The body fills its cell', 'It touches the walls on both sides, and catches if it is slightly wider.'],
  circling: ['Circles a point', 'It goes around its destination and never arrives.'],
  stuck: ['Gets stuck', 'It pushes without progress, then gives up.'],
  'off-screen': ['Leaves the screen', 'The player loses sight of the character.'],
  tremble: ['Trembles', 'The body shakes while it is held still.'],
  'facing-wrong-way': ['Faces the wrong direction', 'The pose shows a different direction from the motion.'],
  'facing-flicker': ['Facing flickers', 'The pose flips back and forth.'],
  pop: ['Jumps', 'The body changes place faster than its speed allows.'],
  'two-devices': ['Two devices fight', 'Keys and stick pull the character in different directions.'],
} as const;
export type SnagId = keyof typeof snagWords;

/** A fault that was found. */
export interface Snag {
  id: SnagId;
  severity: Severity;
  /** The parameter that it is about. */
  path?: string;
  /** The numbers that show it, in words. */
  evidence: string;
  /** The cure: values by path, as a file has them, and their description in words. */
  mend?: { words: string; set: Record<string, FileValue> };
  /** Where on the ground. */
  place?: { x: number; y: number };
  /** When in the trace, s. */
  time?: number;
  /** The drill that showed it. */
  drill?: string;
}

const rank: Readonly<Record<Severity, number>> = { fault: 0, risk: 1, hint: 2 };

/** The worst first; else as they were found. */
export const bySeverity = (snags: readonly Snag[]): Snag[] => snags.toSorted((a, b) => rank[a.severity] - rank[b.severity]);
