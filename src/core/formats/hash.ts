import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** SHA-256 as 64 hex digits. Own package, because the platform's is missing where a page is not served securely. */
export function contentHash(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}
