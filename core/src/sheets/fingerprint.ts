import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** A short name for content: equal content, equal name (SHA-256, first 32 hex digits). */
export const fingerprint = (content: unknown): string =>
  bytesToHex(sha256(utf8ToBytes(JSON.stringify(content)))).slice(0, 32);
