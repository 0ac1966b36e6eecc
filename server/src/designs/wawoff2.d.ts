declare module 'wawoff2' {
  /** The font that a WOFF2 file holds. */
  export function decompress(bytes: Uint8Array): Promise<Uint8Array>;
  /** A font as a WOFF2 file. */
  export function compress(bytes: Uint8Array): Promise<Uint8Array>;
}
