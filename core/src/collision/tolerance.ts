/**
 * Depth (unit) by which a body counts as touching, not as inside. Bodies are swept a little slimmer than they are and laid
 * down at their full size, so that rounding never makes a wall along which a body slides one that it runs into.
 */
export const SLOP = 1e-6;

/** A motion slower than this part of its length towards a wall runs along it. */
export const GRAZE = 1e-12;
