import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** The first 128 bits of the SHA-256 of a text (FIPS 180-4), in hexadecimal. */
export function digestOf(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text))).slice(0, 32);
}
