/** A typed array with twice the room and the same values first. */
export function doubled<T extends Int32Array | Float64Array | Uint8Array>(values: T): T {
  const roomier = new (values.constructor as new (length: number) => T)(values.length * 2);
  roomier.set(values);
  return roomier;
}
