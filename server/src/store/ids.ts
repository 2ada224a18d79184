import { createHash, randomBytes } from 'node:crypto';

/** A new identifier: 80 random bits in the alphabet of `idSchema`. */
export const newId = (): string => randomBytes(10).toString('hex');

/** The unguessable part of a link: 128 random bits, 22 base64url characters. */
export const newToken = (): string => randomBytes(16).toString('base64url');

/** What a token is kept as: its SHA-256, hexadecimal. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
