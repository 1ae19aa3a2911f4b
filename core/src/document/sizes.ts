/** Bytes that a file of a format has at the most; a larger one is refused unread. */
export const largest = {
  tuning: 256 * 1024,
  ground: 16 * 1024 * 1024,
  tape: 32 * 1024 * 1024,
  targets: 256 * 1024,
} as const;

/** Bytes that a project has at the most as one file: it is taken apart before any of it is sent. */
export const LARGEST_PROJECT = 64 * 1024 * 1024;
