/** The decoder of the Encoding Standard, which every engine with a text file to read has. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes: Uint8Array | Uint16Array): string;
}
