import { AppError } from '@under-chalk/core/errors/errors';
import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { open, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { forceToDisk } from './force-to-disk';
import { hashOf } from './ids';

const KEY_FILE = 'links.key';
const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
const CIPHER = 'aes-256-gcm';

/** A link's token as it is kept: what it is found by, and what only the holder of the key can read. */
export interface KeptToken {
  /** SHA-256 of the token, hexadecimal. */
  readonly hash: string;
  /** Nonce, ciphertext and tag (AES-256-GCM, NIST SP 800-38D), base64url. */
  readonly sealed: string;
}

/**
 * Keeps the tokens of links so that the database alone opens none: a student's token is found by its hash, and
 * shown to the teacher again with a key that lies beside the database, in a file of its own.
 */
export class LinkSeal {
  readonly #key: Buffer;

  /** @param key 32 bytes */
  constructor(key: Buffer) {
    this.#key = key;
  }

  /** A seal of its own for one purpose: what was sealed for another is nothing to it (HKDF-SHA-256, RFC 5869). */
  for(purpose: string): LinkSeal {
    return new LinkSeal(Buffer.from(hkdfSync('sha256', this.#key, '', purpose, KEY_BYTES)));
  }

  keep(token: string): KeptToken {
    return { hash: hashOf(token), sealed: this.sealed(token) };
  }

  /** A text that only the holder of the key can read, and nobody else can make: another each time. */
  sealed(text: string): string {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv(CIPHER, this.#key, nonce);
    const hidden = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, hidden, cipher.getAuthTag()]).toString('base64url');
  }

  /**
   * A token that follows from what it is of: the same each time, and nobody else can tell it (HMAC-SHA-256, RFC 2104, its first
   * 128 bits).
   */
  tokenFor(...of: readonly string[]): string {
    const mac = createHmac('sha256', this.#key).update(JSON.stringify(of)).digest();
    return mac.subarray(0, 16).toString('base64url');
  }

  /** What was sealed; null where it was with another key (the key's file was lost), or was altered. */
  opened(sealed: string): string | null {
    const bytes = Buffer.from(sealed, 'base64url');
    try {
      const decipher = createDecipheriv(CIPHER, this.#key, bytes.subarray(0, NONCE_BYTES));
      decipher.setAuthTag(bytes.subarray(-TAG_BYTES));
      const text = decipher.update(bytes.subarray(NONCE_BYTES, -TAG_BYTES));
      return Buffer.concat([text, decipher.final()]).toString('utf8');
    } catch {
      return null;
    }
  }
}

/**
 * Opens the data folder's seal; its key is made when it is first needed.
 *
 * @throws AppError `links-key-damaged`: with another key, no address that was given could be shown again
 */
export const openSeal = async (home: string): Promise<LinkSeal> => {
  const path = join(home, KEY_FILE);
  const present = await readFile(path).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null;
    throw error;
  });
  if (present?.length === KEY_BYTES) return new LinkSeal(present);
  if (present) throw new AppError('links-key-damaged', `${path} has ${present.length} bytes`);
  const key = randomBytes(KEY_BYTES);
  const draft = `${path}.draft`;
  const file = await open(draft, 'w', 0o600);
  try {
    await file.writeFile(key);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(draft, path);
  await forceToDisk(home);
  return new LinkSeal(key);
};
