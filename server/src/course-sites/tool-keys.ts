import {
  calculateJwkThumbprint,
  exportJWK,
  exportPKCS8,
  generateKeyPair,
  importPKCS8,
  SignJWT,
  type CryptoKey,
  type JWK,
  type JWTPayload,
} from 'jose';
import type { Knex } from 'knex';
import { createPublicKey } from 'node:crypto';
import type { LinkSeal } from '../store/link-seal';

const ALGORITHM = 'RS256';
const SETTING = 'course-site-key';
/** What is signed is taken for so long, s. */
const GOOD_FOR_S = 300;

interface Keys {
  readonly own: CryptoKey;
  readonly shown: JWK & { readonly kid: string };
}

/** The key that Under Chalk signs with for course sites, made when it is first needed and kept sealed. */
export class ToolKeys {
  readonly #db: Knex;
  readonly #seal: LinkSeal;
  #keys: Promise<Keys> | null = null;

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  /** What course sites are told (JWKS, RFC 7517). */
  async shown(): Promise<{ keys: JWK[] }> {
    return { keys: [(await this.#opened()).shown] };
  }

  /** Signs something for a site (JWS, RFC 7515). @param audience whom it is for */
  async signed(claims: JWTPayload, issuer: string, audience: string): Promise<string> {
    const { own, shown } = await this.#opened();
    return new SignJWT(claims)
      .setProtectedHeader({ alg: ALGORITHM, kid: shown.kid, typ: 'JWT' })
      .setIssuer(issuer)
      .setAudience(audience)
      .setIssuedAt()
      .setExpirationTime(`${GOOD_FOR_S}s`)
      .setJti(crypto.randomUUID())
      .sign(own);
  }

  #opened(): Promise<Keys> {
    this.#keys ??= this.#open().catch((error: unknown) => {
      this.#keys = null;
      throw error;
    });
    return this.#keys;
  }

  async #open(): Promise<Keys> {
    const row: { value: string } | undefined = await this.#db('settings')
      .where({ name: SETTING })
      .first('value');
    const pem = (row && this.#seal.opened(row.value)) ?? (await this.#make());
    const own = await importPKCS8(pem, ALGORITHM);
    const jwk = await exportJWK(createPublicKey(pem));
    const kid = await calculateJwkThumbprint(jwk);
    return { own, shown: { ...jwk, kid, alg: ALGORITHM, use: 'sig' } };
  }

  async #make(): Promise<string> {
    const { privateKey } = await generateKeyPair(ALGORITHM, { extractable: true });
    const pem = await exportPKCS8(privateKey);
    await this.#db('settings')
      .insert({ name: SETTING, value: this.#seal.sealed(pem) })
      .onConflict('name')
      .merge();
    return pem;
  }
}
