import type { FileValue } from '../../tuning/schema.ts';

/** How bad it is: wrong whatever the game; wrong in many; worth a look. */
export type Severity = 'fault' | 'risk' | 'hint';

/** The faults that are looked for, by their ids in files and reports, each with its name and why it matters. */
export const snagWords = {
  'speed-zero': ['A speed is 0', 'The character cannot move, or stands still where it should sprint.'],
  'sprint-not-faster': ['Sprint is not faster', 'Pressing sprint does nothing, or slows the character down.'],
  'sprint-unlinked': [
    'A speed stands by itself',
    'Typed in two places, one of the two goes stale: the end of a sprint then restores an old walk.',
  ],
  'sprint-on-empty': ['Sprint goes on when empty', 'The bar means nothing: who sprints with nothing left has no reason to save it.'],
  'drain-and-regain': ['Drains and regains at once', 'The bar lasts longer than its drain says, and nobody can tell how long.'],
  'stamina-coarse': ['The bar jumps', 'Lumps are seen, and a sprint that ends within one is paid for the whole of it.'],
  'sprint-relock': ['Unlocked but not to be begun', 'The bar says that sprint is back, and the key does nothing.'],
  'diagonal-fast': ['Diagonals are faster', 'Everyone walks zigzag: 1.41 times as fast as straight.'],
  'dead-zone-none': ['No dead zone', 'A worn stick walks by itself.'],
  'clamp-centre': ['Part of the body leaves the screen', 'The edge stops the centre, and half of the character is not seen.'],
  'push-trembles': ['The push at the edge trembles', 'The next tick carries the body over the edge again.'],
  'push-pops': ['The push at the edge pops', 'The body is seen to jump.'],
  'arrive-orbits': ['Circles the point', 'A tick carries the body past the point, and the next one past it again, for ever.'],
  'arrive-overshoots': ['Runs over the point', 'It slides past where the player clicked, and has to come back.'],
  'rate-dependent': ['Feels different at another rate', 'What is written per tick or per frame is twice as fast at twice the rate.'],
  'auto-run-sprints-on': ['Auto-run leaves sprint on', 'Whoever takes over from auto-run sprints without having asked for it.'],
  'plant-resumes': ['An old click comes back', 'Letting go of plant sends the character to where it was going before.'],
  'facing-flickers': ['Facing flickers on a border', 'A stick held on the border of two ways flips the pose back and forth.'],
  'facing-lost': ['Facing is lost on stopping', 'The character turns away from what it was walking to.'],
  'never-at-speed': ['Never at full speed', 'There is no room on the ground to get up to speed.'],
  'wall-not-solid': ['A wall is not felt', 'The character walks through what is drawn as solid.'],
  'seams-felt': ['Seams are felt', 'The body catches on the joints of a flat wall.'],
  'route-straight': ['Clicks go straight into walls', 'The way to a click is not planned round what stands in it.'],
  'start-in-wall': ['Starts in a wall', 'The character cannot move, or is thrown out at the first tick.'],
  'goal-unreachable': ['The goal cannot be reached', 'This ground cannot be finished by this body.'],
  'gap-too-narrow': ['A gap is too narrow', 'It looks like a way and is none.'],
  'gap-tight': ['A gap is tight', 'It has to be hit exactly.'],
  'cell-body-equal': ['The body fills its cell', 'It touches the walls on both sides, and catches where it is a hair wider.'],
  circling: ['Circles a point', 'It goes round a destination and never gets there.'],
  stuck: ['Gets stuck', 'It pushes without headway, and gives up.'],
  'off-screen': ['Leaves the screen', 'The player loses sight of the character.'],
  tremble: ['Trembles', 'The body shakes while it is held still.'],
  'facing-wrong-way': ['Faces the wrong way', 'The pose shows another way than the motion.'],
  'facing-flicker': ['Facing flickers', 'The pose flips back and forth.'],
  pop: ['Jumps', 'The body is elsewhere at once, which no speed explains.'],
  'two-devices': ['Two devices fight', 'Keys and stick pull the character two ways.'],
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
  /** What cures it: values by path, as a file has them, and what that is in words. */
  mend?: { words: string; set: Record<string, FileValue> };
  /** Where on the ground. */
  place?: { x: number; y: number };
  /** When in the trace, s. */
  time?: number;
  /** The drill in which it was seen. */
  drill?: string;
}

const rank: Readonly<Record<Severity, number>> = { fault: 0, risk: 1, hint: 2 };

/** The worst first; else as they were found. */
export const bySeverity = (snags: readonly Snag[]): Snag[] => snags.toSorted((a, b) => rank[a.severity] - rank[b.severity]);
