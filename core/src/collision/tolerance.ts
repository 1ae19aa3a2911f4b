/**
 * Depth by which a body counts as touching, not as inside, as a share of its larger half side: about 1e-6 px for a body of 24 px, and as much
 * less in a world of smaller units. A power of two, so that a world twice as large is moved through alike to the bit. Bodies are swept a little slimmer than they are and laid
 * down at their full size, so that rounding never makes a wall along which a body slides one that it runs into.
 */
export const SLOP_SHARE = 2 ** -23;

/** A motion slower than this part of its length towards a wall runs along it. */
export const GRAZE = 1e-12;
