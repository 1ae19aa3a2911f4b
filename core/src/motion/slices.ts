/**
 * What each stage keeps between ticks: its slice of the state, written by that stage alone and read by whoever is handed it.
 * Numbers only, so that a state can be kept, restored and hashed.
 */

/** The clock of a world, and whether its last tick got anywhere. */
export interface ClockState {
  /** Number of the last tick; −1 at the start. */
  tick: number;
  /** Time after it, s. */
  time: number;
  /** Length of the tick under way, s. */
  dt: number;
  /** 1 when a wall or an edge took nearly all of the last tick's way. */
  blocked: number;
}

export function createClock(): ClockState {
  return { tick: -1, time: 0, dt: 0, blocked: 0 };
}

/**
 * The body under way: what the moving stages hand on to each other within a tick. Velocity sets `vx … dy`, contact
 * turns the displacement into a new place, bounds correct place and velocity. Every other state is a stage's own.
 */
export interface Motion {
  /** Position of the body's origin, in the ground's unit. */
  x: number;
  y: number;
  /** Velocity, unit/s. */
  vx: number;
  vy: number;
  /** Displacement wanted for this tick, unit. */
  dx: number;
  dy: number;
}

export function createMotion(): Motion {
  return { x: 0, y: 0, vx: 0, vy: 0, dx: 0, dy: 0 };
}

/** What the player wants this tick. Everything that latches (toggle, auto-run, latched way) is kept here and only here. */
export interface IntentState {
  /** The way wanted: a direction times a magnitude; y grows downwards. */
  x: number;
  y: number;
  /** The axis (1 across, 2 down) that a 4-way stick was on last; decides ties. */
  axis: number;
  /** What the hands steer, before latches and turning: kept while the hands do not change. */
  steerX: number;
  steerY: number;
  /** 1 when it has to be read anew in any case. */
  stale: number;
  /** Scheme turn: wanted turn and drive, each in [−1, 1]. */
  turn: number;
  drive: number;
  /** Magnitude asked for: 0 at rest, 1 full, up to √2 with uneven diagonals. */
  amount: number;
  /** 1 while the sprint control is on, whether or not there is something to move for. */
  sprintOn: number;
  /** 1 while a sprint is wanted: on, moving, and enough stick. */
  sprintWanted: number;
  toggled: number;
  autoRun: number;
  /** 1 after a held sprint was cancelled, until the key is released. */
  holdCancelled: number;
  latchX: number;
  latchY: number;
  /** Seconds for which the action control has been down; 0 while it is up. */
  actionFor: number;
  happened: number;
}

export function createIntent(): IntentState {
  return {
    x: 0,
    y: 0,
    axis: 0,
    steerX: 0,
    steerY: 0,
    stale: 1,
    turn: 0,
    drive: 0,
    amount: 0,
    sprintOn: 0,
    sprintWanted: 0,
    toggled: 0,
    autoRun: 0,
    holdCancelled: 0,
    latchX: 0,
    latchY: 0,
    actionFor: 0,
    happened: 0,
  };
}

/** What the feet are asked to do this tick, by the hands, by a route or by grid steps. */
export interface Wish {
  /** The way wanted: a direction times a magnitude. */
  x: number;
  y: number;
  amount: number;
  sprintWanted: number;
}

/** What leads the feet: hands pass through it, until a click has given them a destination. */
export interface RouteState extends Wish {
  /** 0 the hands, 1 on the way to a destination, 2 following the pointer. */
  active: number;
  /** Between which places the way was planned; with the navigator they give it again. */
  fromX: number;
  fromY: number;
  toX: number;
  toY: number;
  /** Number of the waypoint aimed at. */
  leg: number;
  /** Most speed that still stops on the point, unit/s; Infinity without braking. */
  limit: number;
  /** Way left, and distance from the planned line, unit. */
  toGo: number;
  off: number;
  /** Seconds for which the pointer has been down, and since the last plan. */
  pressedFor: number;
  sincePlan: number;
  planted: number;
  /** How far the body should have gone and has, since it was last looked whether it is stuck; for how long; plans made for it. */
  expected: number;
  gone: number;
  watched: number;
  tries: number;
  lastX: number;
  lastY: number;
  happened: number;
}

export function createRoute(): RouteState {
  return {
    x: 0,
    y: 0,
    amount: 0,
    sprintWanted: 0,
    active: 0,
    fromX: 0,
    fromY: 0,
    toX: 0,
    toY: 0,
    leg: 0,
    limit: Infinity,
    toGo: 0,
    off: 0,
    pressedFor: 0,
    sincePlan: 0,
    planted: 0,
    expected: 0,
    gone: 0,
    watched: 0,
    tries: 0,
    lastX: 0,
    lastY: 0,
    happened: 0,
  };
}

/** Steps from cell to cell. */
export interface StepState extends Wish {
  /** 0 at rest, 1 turning, 2 stepping, 3 bumping. */
  phase: number;
  /** Seconds into the phase, and how long it takes. */
  time: number;
  duration: number;
  fromX: number;
  fromY: number;
  toX: number;
  toY: number;
  /** Way of the step under way, −1, 0 or 1 on each axis, and of the press that waits for its end. */
  wayX: number;
  wayY: number;
  nextX: number;
  nextY: number;
  /** Steps taken since the start. */
  count: number;
  happened: number;
}

export function createStep(): StepState {
  return {
    x: 0,
    y: 0,
    amount: 0,
    sprintWanted: 0,
    phase: 0,
    time: 0,
    duration: 0,
    fromX: 0,
    fromY: 0,
    toX: 0,
    toY: 0,
    wayX: 0,
    wayY: 0,
    nextX: 0,
    nextY: 0,
    count: 0,
    happened: 0,
  };
}

export interface GaitState {
  gait: number;
  /** Seconds in this gait. */
  since: number;
  stamina: number;
  sprinting: number;
  /** 1 once a sprint has ended: from then on the speed that it put back is walked. */
  sprinted: number;
  /** 1 from empty until recovered. */
  locked: number;
  /** 1 in the tick after which a cancelled sprint has to be asked for anew. */
  lost: number;
  refused: number;
  /** Seconds since the last drain. */
  sinceDrain: number;
  /** Seconds into the current lump interval. */
  lump: number;
  /** Steady speed that the gait allows, unit/s. */
  speed: number;
  happened: number;
}

export function createGait(): GaitState {
  return {
    gait: 0,
    since: 0,
    stamina: 0,
    sprinting: 0,
    sprinted: 0,
    locked: 0,
    lost: 0,
    refused: 0,
    sinceDrain: 1e9,
    lump: 0,
    speed: 0,
    happened: 0,
  };
}

export interface VelocityState {
  /** Direction of travel, radians; what is turned with heading turning and in scheme turn. */
  heading: number;
  /** Speed aimed at this tick, unit/s. */
  target: number;
}

export function createVelocity(): VelocityState {
  return { heading: 0, target: 0 };
}

export interface BoundsState {
  /** 1 while the body is held at an edge. */
  held: number;
  /** Which edges were met this tick: bits 1 left, 2 right, 4 top, 8 bottom. */
  sides: number;
  happened: number;
}

export function createBounds(): BoundsState {
  return { held: 0, sides: 0, happened: 0 };
}

export interface CameraState {
  /** World point in the middle of the view. */
  x: number;
  y: number;
}

export function createCamera(): CameraState {
  return { x: 0, y: 0 };
}

export interface FacingState {
  /** Where the body faces, radians. */
  angle: number;
  /** Where it should face once it has turned, radians. */
  goal: number;
  /** The direction that was last aimed along: the same one again needs no working out. */
  alongX: number;
  alongY: number;
  happened: number;
}

export function createFacing(): FacingState {
  return { angle: 0, goal: 0, alongX: 0, alongY: 0, happened: 0 };
}

/** What the body meets: how many walls this tick, the first one met, and the surface underfoot. */
export interface ContactState {
  count: number;
  /** Normal of the first wall met this tick, towards the body; kept until the next contact. */
  normalX: number;
  normalY: number;
  /** Where the body touched it. */
  pointX: number;
  pointY: number;
  /** The way that was wanted when it was met: its direction counts. */
  vx: number;
  vy: number;
  /** Where the body's origin would have gone without walls. */
  freeX: number;
  freeY: number;
  /** Speed factor of the surface under the body's centre. */
  surface: number;
  happened: number;
}

export function createContact(): ContactState {
  return { count: 0, normalX: 0, normalY: 0, pointX: 0, pointY: 0, vx: 0, vy: 0, freeX: 0, freeY: 0, surface: 1, happened: 0 };
}
