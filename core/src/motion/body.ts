/**
 * What a world knows between ticks: one flat object, numbers only, so that it can be kept, hashed and rewound, and so that the
 * engine reads and writes a field in place. A field's prefix names the stage that owns it; that stage alone writes it.
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

  /** The way wanted: a direction times a magnitude; y grows downwards. */
  intentX = REAL;
  intentY = REAL;
  /** Magnitude asked for: 0 at rest, 1 full, up to √2 with uneven diagonals. */
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
  /** Way faced: that of the step under way or of the last one, −1, 0 or 1 on each axis. */
  stepWayX = 0;
  stepWayY = 0;
  /** Way of the press that waits for the end of the step. */
  stepNextX = 0;
  stepNextY = 0;
  /** Steps taken since the start. */
  stepCount = 0;
  /** Where the step has come to. */
  stepX = REAL;
  stepY = REAL;

  /** 1 while something but the hands leads the feet, or they are planted. */
  routeLeads = 0;
  /** What leads the feet: 0 the hands, 1 the way to a destination, 2 the pointer. */
  routeActive = 0;
  /** Between which places the way was planned; with the navigator they give it again. */
  routeFromX = REAL;
  routeFromY = REAL;
  routeToX = REAL;
  routeToY = REAL;
  /** Number of the waypoint aimed at, where it lies, and how far off it is, unit. */
  routeLeg = 0;
  routeAimX = REAL;
  routeAimY = REAL;
  routeDistance = REAL;
  /** Most speed that the way allows, and that is aimed at, unit/s. */
  routeCap = REAL;
  routePace = REAL;
  /** What the tick that would pass the waypoint does: 0 passes it, 1 ends on it, 2 ends on it at rest. */
  routeLands = 0;
  /** 1 where the motion is along the way, and so is carried round its bends; 1 where a new click drops the speed. */
  routeCarries = 0;
  routeRestarts = 0;
  /** 1 in the first tick of a plan. */
  routeFresh = 0;
  /** Way left, and distance from the planned line, unit. */
  routeToGo = REAL;
  routeOff = REAL;
  /** Seconds for which the pointer has been down, and since the last plan. */
  routePressedFor = REAL;
  routeSincePlan = REAL;
  routePlanted = 0;
  /** How far the body should have gone and has, since it was last looked whether it is stuck; for how long; plans made for it. */
  routeExpected = REAL;
  routeGone = REAL;
  routeWatched = REAL;
  routeTries = 0;
  /** Distance that the body should have come, by its motion and by the speed aimed at, since the way left became less, unit. */
  routeVain = 0;
  /** Plans on this way from a place to which the body was carried. */
  routeDetours = 0;
  routeLastX = REAL;
  routeLastY = REAL;
  /** The least way left so far, and seconds since it became less. */
  routeLeast = REAL;
  routeSinceLeast = REAL;
  /** What the feet are asked to do, by the hands, by a route or by grid steps: a direction times a magnitude. */
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
  /** 1 in the tick after which a cancelled sprint has to be asked for anew. */
  gaitLost = 0;
  gaitRefused = 0;
  /** Seconds since the last drain. */
  gaitSinceDrain = 1e9 + 0.5;
  /** Seconds into the current lump interval, and what it will give (or, below 0, take) at its end. */
  gaitLump = REAL;
  gaitOwed = REAL;
  /** Steady speed that the gait allows, unit/s. */
  gaitSpeed = REAL;

  /** Velocity that the ramp has come to, unit/s, before walls and edges; where it began in this tick. */
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
  /** What is steered apart: 0 nothing, 1 the heading (heading turning), 2 turn and drive; direction of travel, radians; speed along it. */
  velocityMode = 0;
  velocityHeading = REAL;
  velocitySpeed = REAL;

  /** 0 where nothing can be met in this tick: then the body goes where it wants to, and all that is told below of what was met is 0. */
  contactLooks = 1;
  /** Walls met this tick, and edges that held it: bits 1 left, 2 right, 4 top, 8 bottom. */
  contactCount = 0;
  contactSides = 0;
  /** Normal of the first wall met, towards the body, and where the body touched it; kept until the next contact. */
  contactNormalX = REAL;
  contactNormalY = REAL;
  contactPointX = REAL;
  contactPointY = REAL;
  /** The way that was wanted when it was met: its direction counts. */
  contactWayX = REAL;
  contactWayY = REAL;
  /** Place and velocity that walls and edges leave, in a tick in which something could be met. */
  contactX = REAL;
  contactY = REAL;
  contactVx = REAL;
  contactVy = REAL;
  /** 1 where contact took all of the velocity; 1 where it turned it at full size. */
  contactStops = 0;
  contactKeeps = 0;
  /** Speed factor of the surface under the body's centre. */
  contactSurface = 1.5;

  /** Which edges were met this tick; 1 while the body is held at one; what moved it: 0 nothing, 1 in at the other side, 2 sent. */
  boundsSides = 0;
  boundsHeld = 0;
  boundsJump = 0;
  /** 1 when walls and edges took nearly all of the tick's way. */
  boundsBlocked = 0;
  /** Where the body's origin is, unit, and its velocity, unit/s, after all that it met. */
  x = REAL;
  y = REAL;
  vx = REAL;
  vy = REAL;

  /** Where the body faces, and where it should face once it has turned, radians. */
  facingAngle = REAL;
  facingGoal = REAL;
  /** The direction that was last aimed along: the same one again needs no working out. */
  facingAlongX = REAL;
  facingAlongY = REAL;
  /** Number of the sector faced, counted clockwise from east; −1 when it is none's middle. */
  facingSector = -1;

  /** World point in the middle of the view, and the place that it follows. */
  cameraX = REAL;
  cameraY = REAL;
  cameraAimX = REAL;
  cameraAimY = REAL;
}

type Named<Stage extends string> = Extract<keyof Body, `${Stage}${Capitalize<string>}`>;

/** A body as one stage sees it: its own fields and `happened` to write, the others to read. */
export type Own<Stage extends string> = Readonly<Body> & Pick<Body, Named<Stage> | 'happened'>;

/** The bounds stage has the last word on where the body is. */
export type OwnMotion = Own<'bounds'> & Pick<Body, 'x' | 'y' | 'vx' | 'vy'>;

/** What contact hands on to bounds within a tick: how it is told depends on what is known of the walls near by, what comes of it does not. */
const passing: readonly string[] = ['contactLooks', 'contactX', 'contactY', 'contactVx', 'contactVy'];

/** The names of all fields that last from tick to tick, in a fixed order. */
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

/** Puts back what `saveBody` gave. */
export function loadBody(body: Body, saved: ArrayLike<number>): void {
  for (let i = 0; i < fields.length; i++) body[fields[i] as keyof Body] = saved[i] as number;
}

/** The numbers of a body by name, those alone that differ from a new body's; infinity, which JSON does not have, is null. */
export function nameBody(body: Readonly<Body>): Record<string, number | null> {
  const fresh = createBody();
  const named = fields.filter((field) => body[field] + 0 !== fresh[field] + 0);
  return Object.fromEntries(named.map((field) => [field, body[field] === Infinity ? null : body[field] + 0]));
}

/** Puts back what `nameBody` gave; the names that no body has, as those of another core, are told and left out. */
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

/** Two 32-bit FNV-1a lanes (Fowler, Noll and Vo), the second one begun with the first one's bits turned over; integers of 64 bits are treated differently by engines. */
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
