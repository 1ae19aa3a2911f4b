/**
 * Events of a tick, as bits of the trace's `events` column; the order of the list is the order of the bits. Each has its words for the strip and
 * reports.
 */
export const eventNames = [
  ['sprintBegan', 'Sprint started'],
  ['sprintEnded', 'Sprint ended'],
  ['sprintRefused', 'Sprint refused'],
  ['emptied', 'Stamina empty'],
  ['recovered', 'Recovered'],
  ['toggledOn', 'Sprint switched on'],
  ['toggledOff', 'Sprint switched off'],
  ['autoRunOn', 'Auto-run on'],
  ['autoRunOff', 'Auto-run off'],
  ['sprintCancelled', 'Sprint key cancelled'],
  ['actionPressed', 'Action pressed'],
  ['actionHeld', 'Action held'],
  ['actionReleased', 'Action released'],
  ['wallMet', 'Wall contact'],
  ['wallLeft', 'Off the wall'],
  ['edgeMet', 'Edge contact'],
  ['edgeLeft', 'Off the edge'],
  ['wrapped', 'Wrapped to the other side'],
  ['sent', 'Sent to the point'],
  ['launched', 'Pebble thrown'],
  ['startMoved', 'Moved to a free place'],
  ['routeSet', 'Destination set'],
  ['arrived', 'Arrived'],
  ['unreachable', 'Unreachable'],
  ['nearestTaken', 'Nearest place taken'],
  ['routeCancelled', 'Destination dropped'],
  ['stuck', 'Stuck: destination dropped'],
  ['replanned', 'Replanned'],
  ['planted', 'Planted'],
  ['bumped', 'Bumped'],
  ['squeezed', 'Path without margin'],
  ['circled', 'Circled: destination dropped'],
] as const;

type EventName = (typeof eventNames)[number][0];

/** The bit of each event by its name. */
export const eventBit = /* @__PURE__ */ Object.fromEntries(eventNames.map(([name], i) => [name, 1 << i])) as Readonly<
  Record<EventName, number>
>;

export const SPRINT_BEGAN = 1;
export const SPRINT_ENDED = 2;
export const SPRINT_REFUSED = 4;
export const EMPTIED = 8;
export const RECOVERED = 16;
export const TOGGLED_ON = 32;
export const TOGGLED_OFF = 64;
export const AUTO_RUN_ON = 128;
export const AUTO_RUN_OFF = 256;
export const SPRINT_CANCELLED = 512;
export const ACTION_PRESSED = 1024;
export const ACTION_HELD = 2048;
export const ACTION_RELEASED = 4096;
export const WALL_MET = 8192;
export const WALL_LEFT = 16384;
export const EDGE_MET = 32768;
export const EDGE_LEFT = 65536;
export const WRAPPED = 131072;
export const SENT = 262144;
export const LAUNCHED = 524288;
export const START_MOVED = 1048576;
export const ROUTE_SET = 1 << 21;
export const ARRIVED = 1 << 22;
export const UNREACHABLE = 1 << 23;
export const NEAREST_TAKEN = 1 << 24;
export const ROUTE_CANCELLED = 1 << 25;
export const STUCK = 1 << 26;
export const REPLANNED = 1 << 27;
export const PLANTED = 1 << 28;
export const BUMPED = 1 << 29;
export const SQUEEZED = 1 << 30;
export const CIRCLED = 1 << 31;
