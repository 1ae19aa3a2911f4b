/** The meanings of the body's whole numbers. */

/** Names of the gaits; the index is what a body and a trace hold. */
export const gaits = ['stand', 'walk', 'sprint', 'spent'] as const;
export const STAND = 0;
export const WALK = 1;
export const SPRINTING = 2;
export const SPENT = 3;

/** Phases of grid steps. */
export const AT_REST = 0;
export const TURNING = 1;
export const STEPPING = 2;
export const BUMPING = 3;

/** Sources of the motion. */
export const BY_HANDS = 0;
export const TO_POINT = 1;
export const AFTER_POINTER = 2;

/** A route's behaviour in the tick that would pass the waypoint. */
export const PASSES = 0;
export const LANDS = 1;
export const LANDS_AT_REST = 2;

/** States of the separate heading. */
export const BY_VECTOR = 0;
export const BY_HEADING = 1;
export const BY_DRIVE = 2;

/** Reasons for a placement within a tick. */
export const STAYED = 0;
export const WAS_PUSHED = 1;
export const WENT_ROUND = 2;
export const WAS_SENT = 3;

/** Sides of the frame, as bits. */
export const LEFT_SIDE = 1;
export const RIGHT_SIDE = 2;
export const TOP_SIDE = 4;
export const BOTTOM_SIDE = 8;
