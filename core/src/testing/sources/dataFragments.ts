/** A piece of what a game has, made up, with what each number is; null: nothing that a tuning has. Test data. */
export interface Fragment {
  language: string;
  code: string;
  /** Path by the last part of the name. */
  is: Record<string, string | null>;
}

/** Those of files that hold nothing but data. */
export const dataFragments: readonly Fragment[] = [
  {
    language: 'JSON',
    code: `{ "hero": { "walk_speed": 140, "size": [24, 30], "stamina": { "max": 120, "regen_rate": 18 } },
  "spawn_rate": 2.5, "music_volume": 0.8 }`,
    is: {
      walk_speed: 'pace.walkSpeed',
      x: 'body.width',
      y: 'body.height',
      max: 'stamina.max',
      regen_rate: 'stamina.regain',
      spawn_rate: null,
      music_volume: null,
    },
  },
  {
    language: 'YAML',
    code: `player:
  walk_speed: 140      # px/s
  sprint:
    speed: 245
  stamina:
    max: 100
    drain: 20
  dead_zone: 20%
enemies:
  speed: 60`,
    is: {
      walk_speed: 'pace.walkSpeed',
      speed: 'pace.sprintSpeed',
      max: 'stamina.max',
      drain: 'stamina.drain',
      dead_zone: 'input.deadZone',
    },
  },
  {
    language: 'INI',
    code: `[player]
walk_speed = 4
run_speed = 7
; all in tiles a second
[grid]
tile_size = 16
input_buffer_ms = 120
[audio]
volume = 0.7`,
    is: {
      walk_speed: 'pace.walkSpeed',
      run_speed: 'pace.sprintSpeed',
      tile_size: 'step.cell',
      input_buffer_ms: 'step.buffer',
      volume: null,
    },
  },
  {
    language: 'TOML',
    code: `[stamina]
max = 100.0
drain = 22
regen_delay = 0.75
[click]
arrive_radius = 3.5
tap_time = 0.2
[shop]
price = 50`,
    is: {
      max: 'stamina.max',
      drain: 'stamina.drain',
      regen_delay: 'stamina.regainDelay',
      arrive_radius: 'route.arriveRadius',
      tap_time: 'route.tapTime',
      price: null,
    },
  },
  {
    language: 'CSV, two columns',
    code: `walk_speed,140
sprint_speed,245
deceleration,1100
boss_health,900`,
    is: { walk_speed: 'pace.walkSpeed', sprint_speed: 'pace.sprintSpeed', deceleration: 'ramp.decelerate', boss_health: null },
  },
  {
    language: 'CSV with a head',
    code: `character,walk_speed,sprint_speed,radius,hit_points
carrier,140,245,12,30`,
    is: { walk_speed: 'pace.walkSpeed', sprint_speed: 'pace.sprintSpeed', radius: 'body.radius', hit_points: null },
  },
  {
    language: 'XML',
    code: `<character walkSpeed="140" runSpeed="245">
  <radius>12</radius>
  <param name="acceleration" value="900"/>
  <loot chance="0.3"/>
</character>`,
    is: { walkSpeed: 'pace.walkSpeed', runSpeed: 'pace.sprintSpeed', radius: 'body.radius', acceleration: 'ramp.accelerate', chance: null },
  },
];
