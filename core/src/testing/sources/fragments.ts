import { dataFragments, type Fragment } from './dataFragments.ts';

/** Fragments as games have them, all made up, in languages of every kind. */
export const fragments: readonly Fragment[] = [
  {
    language: 'C',
    code: `#define WALK_SPEED 140.0f      /* px/s */
#define SPRINT_SPEED 245.0f
#define PLAYER_RADIUS 12
#define MAX_HEALTH 100
static const float ACCEL = 900.f;
static const float DECEL = 1200.f;`,
    is: {
      WALK_SPEED: 'pace.walkSpeed',
      SPRINT_SPEED: 'pace.sprintSpeed',
      PLAYER_RADIUS: 'body.radius',
      MAX_HEALTH: null,
      ACCEL: 'ramp.accelerate',
      DECEL: 'ramp.decelerate',
    },
  },
  {
    language: 'C++',
    code: `namespace hero {
  constexpr double kWalkSpeed = 4.5;          // m/s
  constexpr double kRunMultiplier = 1.6;
  constexpr double kTurnRateDeg{360.0};
  inline constexpr int kMaxJumps = 2;
  constexpr auto kStaminaMax = 100.0, kStaminaDrain = 25.0;
}`,
    is: {
      kWalkSpeed: 'pace.walkSpeed',
      kRunMultiplier: 'pace.sprintSpeed',
      kTurnRateDeg: 'facing.rate',
      kMaxJumps: null,
      kStaminaMax: 'stamina.max',
      kStaminaDrain: 'stamina.drain',
    },
  },
  {
    language: 'C#',
    code: `[SerializeField] private float walkSpeed = 3.5f;
[SerializeField, Range(1f, 3f)] private float sprintMultiplier = 1.75f;
public float acceleration = 20f;
public float StaminaRegenDelay { get; set; } = 0.8f;
const float DeadZone = 0.2f;
private int coins = 3;`,
    is: {
      walkSpeed: 'pace.walkSpeed',
      sprintMultiplier: 'pace.sprintSpeed',
      acceleration: 'ramp.accelerate',
      StaminaRegenDelay: 'stamina.regainDelay',
      DeadZone: 'input.deadZone',
      coins: null,
      Range: null,
    },
  },
  {
    language: 'Lua',
    code: `local player = {
  walk_speed = 140, run_speed = 245,
  accel = 900, decel = 1200, -- px/s^2
  radius = 11.5,
  mana = 40,
}
player.stamina_drain = 20`,
    is: {
      walk_speed: 'pace.walkSpeed',
      run_speed: 'pace.sprintSpeed',
      accel: 'ramp.accelerate',
      decel: 'ramp.decelerate',
      radius: 'body.radius',
      mana: null,
      'player.stamina_drain': 'stamina.drain',
      stamina_drain: 'stamina.drain',
    },
  },
  {
    language: 'Python',
    code: `WALK_SPEED = 2.5  # px per frame
SPRINT_SPEED = WALK_SPEED * 1.8
FRICTION = 0.3
INPUT_BUFFER_FRAMES = 8
GRAVITY: float = 0.5
TURN_SPEED: float = 6  # degrees per frame`,
    is: {
      WALK_SPEED: 'pace.walkSpeed',
      SPRINT_SPEED: 'pace.sprintSpeed',
      FRICTION: 'ramp.decelerate?',
      INPUT_BUFFER_FRAMES: 'step.buffer',
      GRAVITY: null,
      TURN_SPEED: 'facing.rate',
    },
  },
  {
    language: 'TypeScript',
    code: `export const movement = {
  walkSpeed: 120,
  sprintSpeed: 210,
  stamina: { max: 80, drain: 16, regen: 12, regenDelay: 0.5 },
  camera: { lookAhead: 0.15 },
  fireRate: 4,
} as const;`,
    is: {
      walkSpeed: 'pace.walkSpeed',
      sprintSpeed: 'pace.sprintSpeed',
      max: 'stamina.max',
      drain: 'stamina.drain',
      regen: 'stamina.regain',
      regenDelay: 'stamina.regainDelay',
      lookAhead: 'camera.lookAhead',
      fireRate: null,
    },
  },
  {
    language: 'Rust',
    code: `pub const WALK_SPEED: f32 = 140_f32;
pub const RUN_SPEED: f32 = 1.75 * WALK_SPEED;
pub const BODY_RADIUS: f64 = 12.0;
pub const STEP_TIME: f32 = 0.18;
const LIVES: u8 = 3;`,
    is: { WALK_SPEED: 'pace.walkSpeed', RUN_SPEED: 'pace.sprintSpeed', BODY_RADIUS: 'body.radius', STEP_TIME: 'step.time', LIVES: null },
  },
  {
    language: 'Go',
    code: `const (
	WalkSpeed   = 150.0
	SprintSpeed = 260.0
	TickRate    = 60
	ArriveRadius float64 = 4
	EnemySpeed  = 90.0
)`,
    is: {
      WalkSpeed: 'pace.walkSpeed',
      SprintSpeed: 'pace.sprintSpeed',
      TickRate: 'clock.hz',
      ArriveRadius: 'route.arriveRadius',
      EnemySpeed: null,
    },
  },
  {
    language: 'Kotlin',
    code: `private val walkSpeed = 130f
var turnRateDegrees: Float = 540f
val cornerCorrection: Int = 4
companion object { const val TILE_SIZE = 32 }
val arrowDamage = 7`,
    is: {
      walkSpeed: 'pace.walkSpeed',
      turnRateDegrees: 'facing.rate',
      cornerCorrection: 'contact.cornerAssist',
      TILE_SIZE: 'step.cell',
      arrowDamage: null,
    },
  },
  {
    language: 'Swift',
    code: `static let walkSpeed: CGFloat = 140
static let accelerationTime: Double = 0.2
let stickDeadZone = 0.18
var maxAmmo: Int = 30`,
    is: { walkSpeed: 'pace.walkSpeed', accelerationTime: 'ramp.accelerate', stickDeadZone: 'input.deadZone', maxAmmo: null },
  },
  ...dataFragments,
  {
    language: 'Ruby',
    code: `WALK_SPEED = 140
OPTIONS = { sprint_speed: 245, :half_life => 0.05, ladder_speed: 60 }
@stamina_max = 100`,
    is: {
      WALK_SPEED: 'pace.walkSpeed',
      sprint_speed: 'pace.sprintSpeed',
      half_life: 'ramp.halfLife?',
      ladder_speed: null,
      '@stamina_max': 'stamina.max',
    },
  },
  {
    language: 'PHP',
    code: `$walk_speed = 140;
define('SPRINT_SPEED', 245);
$config['turn_rate'] = 360;
$score = 0;`,
    is: { $walk_speed: 'pace.walkSpeed', SPRINT_SPEED: 'pace.sprintSpeed', turn_rate: 'facing.rate', $score: null },
  },
  {
    language: 'Lisp',
    code: `(def walk-speed 140)
(defparameter *run-speed* 245) ; px/s
(defconst bump-time 0.1)
(def tree-height 90)`,
    is: { 'walk-speed': 'pace.walkSpeed', 'run-speed': 'pace.sprintSpeed', 'bump-time': 'step.bumpTime', 'tree-height': null },
  },
  {
    language: 'a script of an engineer’s own',
    code: `var walk := 140.0
var brake_deceleration := 1800.0
walk_speed_on_ice := 90.0
edge_push = 10
tick_rate 60`,
    is: {
      walk: 'pace.walkSpeed',
      brake_deceleration: 'ramp.brake',
      walk_speed_on_ice: null,
      edge_push: 'bounds.push',
      tick_rate: 'clock.hz',
    },
  },
  {
    language: 'Java',
    code: `public static final double WALK_SPEED = 140d;
public static final double MIN_STAMINA_TO_SPRINT = 10.0;
private static final int WAYPOINT_RADIUS = 6, CAMERA_WIDTH = 640, CAMERA_HEIGHT = 360;
static final long SAVE_INTERVAL_MS = 5_000L;`,
    is: {
      WALK_SPEED: 'pace.walkSpeed',
      MIN_STAMINA_TO_SPRINT: 'stamina.startAt',
      WAYPOINT_RADIUS: 'route.waypointRadius',
      CAMERA_WIDTH: 'camera.viewWidth',
      CAMERA_HEIGHT: 'camera.viewHeight',
      SAVE_INTERVAL_MS: null,
    },
  },
];
