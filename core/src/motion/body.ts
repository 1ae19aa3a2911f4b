/**
 * The state of a world between ticks: one flat object of numbers, so that it can be kept, hashed and rewound, and so that the engine reads and writes
 * a field in place. A field's prefix names the stage that owns it; only that stage writes it.
 */

/** The initial value of a field that holds fractions: a double from the start, so that its kind never changes. */
const REAL = -0;

export class Body {
  /** Everything that happened in the tick, as bits of the trace's `events`; each stage adds its own. */
  happened = 0;

  /** Number of the last tick; −1 at the start. Time after it and length of it, s. */
  clockTick = -1;
  clockTime = REAL;
  clockDt = REAL;
  /** The tick and time from which fixed ticks are counted: the start, or the last change of the tick rate. */
  clockEpochTick = -1;
  clockEpochTime = REAL;

  /** The wanted direction times a magnitude; y grows downwards. */
  intentX = REAL;
  intentY = REAL;
  /** Requested magnitude: 0 at rest, 1 full, up to √2 with uneven diagonals. */
  intentAmount = REAL;
  /** The axis (1 across, 2 down) that a 4-way stick was on last; decides ties. */
  intentAxis = 0;
  /** Scheme turn: wanted turn and drive, each in [−1, 1]. */
  intentTurn = REAL;
  intentDrive = REAL;
  /** 1 while the sprint control is on, and while a sprint is wanted: on, moving, and enough stick. */
  intentSprintOn = 0;
  intentSprintWanted = 0;
  intentToggled = 0;
  intentAutoRun = 0;
  /** 1 after a held sprint was cancelled, until the key is released. */
  intentHoldCancelled = 0;
  intentLatchX = REAL;
  intentLatchY = REAL;
  /** Seconds for which the action control has been down; 0 while it is up. */
  intentActionFor = REAL;
  /** 1 while nothing but an event of the hands can change the intent. */
  intentSteady = 0;

  /** 1 while the feet step from cell to cell. */
  stepLive = 0;
  /** 0 at rest, 1 turning, 2 stepping, 3 bumping; seconds into that, and how long it takes. */
  stepPhase = 0;
  stepTime = REAL;
  stepDuration = REAL;
  stepFromX = REAL;
  stepFromY = REAL;
  stepToX = REAL;
  stepToY = REAL;
  /** Direction of the current step or of the last one: −1, 0 or 1 on each axis. */
  stepWayX = 0;
  stepWayY = 0;
  /** Direction of the press that waits for the end of the step. */
  stepNextX = 0;
  stepNextY = 0;
  /** Steps taken since the start. */
  stepCount = 0;
  /** Current place on the step. */
  stepX = REAL;
  stepY = REAL;

  /** 1 while something but the hands leads the feet, or they are planted. */
  routeLeads = 0;
  /** Source of the motion: 0 the hands, 1 the path to a destination, 2 the pointer. */
  routeActive = 0;
  /** Ends of the planned path; the navigator finds the same path again from them. */
  routeFromX = REAL;
  routeFromY = REAL;
  routeToX = REAL;
  routeToY = REAL;
  /** Number of the waypoint aimed at, where it lies, and how far off it is, unit. */
  routeLeg = 0;
  routeAimX = REAL;
  routeAimY = REAL;
  routeDistance = REAL;
  /** Highest speed that the path allows, and the speed aimed at, unit/s. */
  routeCap = REAL;
  routePace = REAL;
  /** In the tick that would pass the waypoint: 0 passes it, 1 ends on it, 2 ends on it at rest. */
  routeLands = 0;
  /** 1 if the motion follows the path, and so is carried round its bends; 1 if a new click drops the speed. */
  routeCarries = 0;
  routeRestarts = 0;
  /** 1 in the first tick of a plan. */
  routeFresh = 0;
  /** Remaining path, and distance from the planned line, unit. */
  routeToGo = REAL;
  routeOff = REAL;
  /** Seconds for which the pointer has been down, and since the last plan. */
  routePressedFor = REAL;
  routeSincePlan = REAL;
  routePlanted = 0;
  /** Expected and actual distance since the last check for being stuck; duration of the check, s; plans made because of it. */
  routeExpected = REAL;
  routeGone = REAL;
  routeWatched = REAL;
  routeTries = 0;
  /** Expected distance by the motion, and by the speed aimed at, since the remaining path last decreased, unit. */
  routeVain = 0;
  /** Plans made on this path from places to which the body was carried. */
  routeDetours = 0;
  routeLastX = REAL;
  routeLastY = REAL;
  /** The shortest remaining path so far, and seconds since it decreased. */
  routeLeast = REAL;
  routeSinceLeast = REAL;
  /** The requested motion, from the hands, a path or grid steps: a direction times a magnitude. */
  routeWishX = REAL;
  routeWishY = REAL;
  routeWishAmount = REAL;
  routeWishSprint = 0;

  /** Index of the gait. */
  gaitIndex = 0;
  gaitStamina = REAL;
  gaitSprinting = 0;
  /** 1 once a sprint has ended: from then on the speed that it put back is walked. */
  gaitSprinted = 0;
  /** 1 from empty until recovered. */
  gaitLocked = 0;
  /** 1 in the tick after which a cancelled sprint has to be requested again. */
  gaitLost = 0;
  gaitRefused = 0;
  /** Seconds since the last drain; at the start far above any delay (`createBody`). The half makes the field a double. */
  gaitSinceDrain = 1e9 + 0.5;
  /** Seconds into the current interval of `tickInterval`, and the charge at its end (below 0: a drain). */
  gaitLump = REAL;
  gaitOwed = REAL;
  /** Steady speed that the gait allows, unit/s. */
  gaitSpeed = REAL;

  /** Velocity after the ramp, unit/s, before walls and edges; its value at the start of this tick. */
  velocityX = REAL;
  velocityY = REAL;
  velocityFromX = REAL;
  velocityFromY = REAL;
  /** Velocity aimed at in this tick, unit/s, and its size. */
  velocityAimX = REAL;
  velocityAimY = REAL;
  velocityTarget = REAL;
  /** Displacement wanted for this tick, unit, and the place that it leads to. */
  velocityDx = REAL;
  velocityDy = REAL;
  velocityToX = REAL;
  velocityToY = REAL;
  /** State of the separate heading: 0 none, 1 a heading (heading turning), 2 turn and drive; direction of travel, radians; speed along it. */
  velocityMode = 0;
  velocityHeading = REAL;
  velocitySpeed = REAL;

  /** 0 if nothing can be met in this tick: the body goes where it wants to, and the contact fields below are 0. */
  contactLooks = 1;
  /** Walls met this tick, and edges that held it: bits 1 left, 2 right, 4 top, 8 bottom. */
  contactCount = 0;
  contactSides = 0;
  /** Normal of the first wall met, towards the body, and where the body touched it; kept until the next contact. */
  contactNormalX = REAL;
  contactNormalY = REAL;
  contactPointX = REAL;
  contactPointY = REAL;
  /** The wanted direction at the first contact. */
  contactWayX = REAL;
  contactWayY = REAL;
  /** Place and velocity after walls and edges, in a tick in which something can be met. */
  contactX = REAL;
  contactY = REAL;
  contactVx = REAL;
  contactVy = REAL;
  /** 1 if contact took all of the velocity; 1 if it only turned it, at full size. */
  contactStops = 0;
  contactKeeps = 0;
  /** Speed factor of the surface under the body's centre; 1 at the start (`createBody`). The half makes the field a double. */
  contactSurface = 1.5;

  /** The edges met this tick; 1 while the body is held at one; the kind of its placement: 0 none, 1 re-entered at the other side, 2 sent. */
  boundsSides = 0;
  boundsHeld = 0;
  boundsJump = 0;
  /** 1 when walls and edges took nearly all of the tick's displacement. */
  boundsBlocked = 0;
  /** Where the body's origin is, unit, and its velocity, unit/s, after all that it met. */
  x = REAL;
  y = REAL;
  vx = REAL;
  vy = REAL;

  /** Facing and its goal, radians. */
  facingAngle = REAL;
  facingGoal = REAL;
  /** The direction of the last goal: the same one need not be processed again. */
  facingAlongX = REAL;
  facingAlongY = REAL;
  /** Number of the sector faced, counted clockwise from east; −1 if not at a sector's middle. */
  facingSector = -1;

  /** World point in the middle of the view, and the place that it follows. */
  cameraX = REAL;
  cameraY = REAL;
  cameraAimX = REAL;
  cameraAimY = REAL;
}

type Named<Stage extends string> = Extract<keyof Body, `${Stage}${Capitalize<string>}`>;

/** A body as one stage sees it: its own fields and `happened` are writable, the others read-only. */
export type Own<Stage extends string> = Readonly<Body> & Pick<Body, Named<Stage> | 'happened'>;

/** The bounds stage decides the final place. */
export type OwnMotion = Own<'bounds'> & Pick<Body, 'x' | 'y' | 'vx' | 'vy'>;

/** Scratch that contact passes to bounds within a tick. Its values depend on which walls are known nearby; the results don't. */
const passing: readonly string[] = ['contactLooks', 'contactX', 'contactY', 'contactVx', 'contactVy'];

/** The names of all fields that last between ticks, in a fixed order. */
const fields = /* @__PURE__ */ Object.keys(/* @__PURE__ */ new Body()).filter((field) => !passing.includes(field)) as (keyof Body)[];

/** A body at rest at 0, 0, before anything has happened. */
export function createBody(): Body {
  const body = new Body();
  body.contactSurface = 1;
  body.gaitSinceDrain = 1e9;
  return body;
}

/** All numbers of a body, in a fixed order. */
export function saveBody(body: Readonly<Body>): Float64Array {
  return Float64Array.from(fields, (field) => body[field]);
}

/** Restores a `saveBody` result. */
export function loadBody(body: Body, saved: ArrayLike<number>): void {
  for (let i = 0; i < fields.length; i++) body[fields[i] as keyof Body] = saved[i] as number;
}

/** The fields of a body that differ from a new body's, by name; infinity, which JSON lacks, is null. */
export function nameBody(body: Readonly<Body>): Record<string, number | null> {
  const fresh = createBody();
  const named = fields.filter((field) => body[field] + 0 !== fresh[field] + 0);
  return Object.fromEntries(named.map((field) => [field, body[field] === Infinity ? null : body[field] + 0]));
}

/** Restores the fields of a `nameBody` result; returns the names that no body has, such as those of another core. */
export function loadNamed(body: Body, named: Readonly<Record<string, number | null>>): string[] {
  loadBody(body, saveBody(createBody()));
  const unknown: string[] = [];
  for (const [name, value] of Object.entries(named)) {
    if ((fields as string[]).includes(name)) body[name as keyof Body] = value ?? Infinity;
    else unknown.push(name);
  }
  return unknown;
}

/** FNV-1a's prime and offset. */
const PRIME = 0x01000193;
const OFFSET = 0x811c9dc5;

/**
 * Two 32-bit FNV-1a lanes (Fowler, Noll and Vo); the second starts with the first one's bits inverted. Engines treat 64-bit integers differently, so
 * none are used.
 */
class Lanes {
  #first = OFFSET;
  #second = ~OFFSET;

  add(byte: number, salt: number): void {
    this.#first = Math.imul(this.#first ^ byte, PRIME);
    this.#second = Math.imul(this.#second ^ byte ^ salt, PRIME);
  }

  /** 16 hexadecimal digits. */
  digits(): string {
    return [this.#first, this.#second].map((lane) => (lane >>> 0).toString(16).padStart(8, '0')).join('');
  }
}

/** A hash over the bytes of a body (little-endian doubles), as 16 hexadecimal digits. */
export function hashBody(body: Readonly<Body>): string {
  const view = new DataView(new ArrayBuffer(8));
  const lanes = new Lanes();
  for (const field of fields) {
    // Adding 0 turns −0 into 0: they are the same state.
    view.setFloat64(0, body[field] + 0, true);
    for (let i = 0; i < 8; i++) lanes.add(view.getUint8(i), i);
  }
  return lanes.digits();
}

/** The same over the UTF-16 units of a text, low byte first. */
export function hashText(text: string): string {
  const lanes = new Lanes();
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    lanes.add(unit & 0xff, i & 7);
    lanes.add(unit >> 8, (i + 1) & 7);
  }
  return lanes.digits();
}
