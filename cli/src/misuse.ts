/** A call or a file that cannot be used: its message goes to stderr, the exit code is 2. */
export class Misuse extends Error {}

/** Exit codes of every command. */
export const GOOD = 0;
export const FINDING = 1;
export const MISUSE = 2;
