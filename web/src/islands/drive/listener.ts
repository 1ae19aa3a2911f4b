/** Follows what is driven by hand. */
export interface DriveListener {
  /** The body stands at the ground's start, and the recording begins. */
  began(): void;
  /** The drive goes on from elsewhere: the body or the ground was changed. */
  ended(): void;
  /** A tick was run. */
  ticked(): void;
  retuned(): void;
}
