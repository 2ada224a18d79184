import { readLaunch, type Launch } from '@under-chalk/core/course-site/launch';
import type { CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import {
  createRemoteJWKSet,
  customFetch,
  decodeJwt,
  errors,
  jwtVerify,
  type JWTPayload,
  type JWTVerifyOptions,
} from 'jose';
import { randomBytes } from 'node:crypto';
import * as z from 'zod';
import type { LinkSeal } from '../store/link-seal';
import { bindingOf, isBound, OWN_WINDOW, type Binding } from './browser-binding';
import { jsonOf } from './site-client';
import type { SiteStore } from './site-store';

/** Somebody who was sent on to say who they are is back before this, ms. */
export const STATE_MS = 600_000;
/** What a site signs is taken for so long, and its clock may be off by so much, s. */
const MOST_AGE = '10m';
const CLOCK_S = 60;
const ANSWER_MS = 5_000;
/** Most that is read of a site's keys. */
const MOST_KEYS_BYTES = 256_000;
const MOST_KEYS = 100;
/** Keys are asked for again so often at most because of a signature that doesn't fit, ms. */
const RELOAD_MS = 30_000;
/** Signatures with a key that a site shows (LTI Security Framework 1.0, 5.1.2: RS256 is what all have). */
const ALGORITHMS = ['RS256', 'RS384', 'RS512', 'ES256', 'ES384'];

/** What a site sends somebody to us with (OpenID Connect, third-party initiated login). */
export const loginSchema = z.object({
  iss: z.string().min(1).max(500),
  login_hint: z.string().min(1).max(2_000),
  target_link_uri: z.string().max(2_000).optional(),
  lti_message_hint: z.string().max(8_000).optional(),
  client_id: z.string().max(200).optional(),
  lti_deployment_id: z.string().max(255).optional(),
  /** The frame of the site that keeps something for us (LTI postMessage Storage 1.0). */
  lti_storage_target: z.string().max(200).optional(),
  [OWN_WINDOW]: z.string().max(1).optional(),
});
export type Login = z.infer<typeof loginSchema>;

export const answerSchema = z.object({
  id_token: z.string().min(1).max(32_000),
  state: z.string().min(1).max(6_000),
  /** What the site's storage was asked for; empty: it gave nothing. */
  secret: z.string().max(200).optional(),
});

const stateSchema = z.object({
  ...{ site: z.string(), nonce: z.string(), until: z.number() },
  ...{ digest: z.string(), frame: z.string().nullable(), again: z.string().nullable() },
});

/** A sign-in that began here. */
export interface Begun extends Binding {
  readonly site: CourseSite;
  readonly nonce: string;
  /** When it has to be over, ms since 1970. */
  readonly until: number;
}

/** A sign-in that begins: where the browser is redirected to, and the secret that it keeps. */
export interface Beginning extends Begun {
  readonly to: string;
  readonly secret: string;
}

/** The origin whose frame keeps something for us (LTI postMessage Storage 1.0, 2.2: that of its authorization address). */
export const storageOrigin = ({ authAddress }: CourseSite): string => new URL(authAddress).origin;

/** Why what a site has signed isn't believed, by what is wrong with it. */
const problemOf = (error: unknown): AppError => {
  const why = (code: ConstructorParameters<typeof AppError>[0]) =>
    new AppError(code, String(error), { cause: error });
  if (error instanceof errors.JWTExpired) return why('launch-over');
  if (error instanceof errors.JWTClaimValidationFailed) {
    if (error.claim === 'aud') return why('launch-elsewhere');
    if (error.claim === 'iss') return why('site-unknown');
    return why(error.claim === 'iat' ? 'launch-over' : 'launch-unfit');
  }
  if (error instanceof errors.JOSEError && !(error instanceof errors.JWKSTimeout))
    return why(error.code === 'ERR_JOSE_GENERIC' ? 'site-unreachable' : 'launch-forged');
  return why('site-unreachable');
};

/** Asks for a site's keys, and reads no more than keys can be. */
const askForKeys = async (address: string, init: RequestInit): Promise<Response> => {
  const response = await fetch(address, { ...init, redirect: 'error' });
  if (!response.ok) return response;
  const told = await jsonOf(response, MOST_KEYS_BYTES);
  const { keys } = Object(told) as { readonly keys?: unknown };
  if (Array.isArray(keys) && keys.length > MOST_KEYS) throw new Error('it has too many keys');
  return Response.json(told);
};

/** Lets in who comes from a course site, by LTI 1.3: each is who their site says, once, and for minutes. */
export class Launches {
  readonly #sites: SiteStore;
  readonly #seal: LinkSeal;
  readonly #keys = new Map<string, ReturnType<typeof createRemoteJWKSet>>();
  /** When the keys at an address were asked for again, ms since 1970. */
  readonly #reloaded = new Map<string, number>();

  constructor(sites: SiteStore, seal: LinkSeal) {
    this.#sites = sites;
    this.#seal = seal;
  }

  /**
   * Where somebody who is sent by a site goes on to, to be told who they are.
   *
   * @param back where they come back to with it
   * @throws AppError `site-unknown`
   */
  async begin(login: Login, back: string, now = Date.now()): Promise<Beginning> {
    const site = await this.#sites.from(login.iss, login.client_id ?? null);
    if (!site) throw new AppError('site-unknown', login.iss);
    const nonce = randomBytes(16).toString('base64url');
    const until = now + STATE_MS;
    const { secret, binding } = bindingOf(login);
    const state = { site: site.id, nonce, until, ...binding } satisfies z.infer<typeof stateSchema>;
    const to = new URL(site.authAddress);
    const asked = {
      ...{ scope: 'openid', response_type: 'id_token', response_mode: 'form_post', prompt: 'none' },
      ...{ client_id: site.clientId, redirect_uri: back, login_hint: login.login_hint, nonce },
      state: this.#seal.sealed(JSON.stringify(state)),
      ...(login.lti_message_hint === undefined ? {} : { lti_message_hint: login.lti_message_hint }),
    };
    for (const [name, value] of Object.entries(asked)) to.searchParams.set(name, value);
    return { site, nonce, until, secret, to: to.href, ...binding };
  }

  /**
   * The sign-in that somebody has come back from. Whether it is theirs is for {@link end} to say.
   *
   * @throws AppError `launch-over`, `launch-forged`, `site-unknown`
   */
  async begun(sealed: string, now = Date.now()): Promise<Begun> {
    const opened = this.#seal.opened(sealed);
    const state = opened === null ? null : stateSchema.parse(JSON.parse(opened));
    // A state of nobody’s: it didn’t begin here.
    if (!state) throw new AppError('launch-forged', 'its state is none of ours');
    if (state.until < now) throw new AppError('launch-over', 'it began too long ago');
    const site = await this.#sites.get(state.site).catch(() => {
      throw new AppError('site-unknown', state.site);
    });
    return { ...state, site };
  }

  /**
   * Who has come back, and what for.
   *
   * @param token what the site has signed
   * @param presented what this browser, or the site's storage in it, has kept of the beginning
   * @throws AppError `launch-unbound`, `launch-over`, `launch-again`, `launch-forged`, `launch-elsewhere`, `launch-unfit`,
   * `site-unknown`, `site-unreachable`
   */
  async end(
    token: string,
    begun: Begun,
    presented: readonly (string | undefined)[],
    now = Date.now(),
  ): Promise<Launch> {
    if (!isBound(begun, presented)) throw new AppError('launch-unbound');
    const { site } = begun;
    const claims = await this.#verified(token, site, now);
    if (claims['nonce'] !== begun.nonce)
      throw new AppError('launch-forged', 'its nonce is another');
    const isForSeveral = Array.isArray(claims.aud) && claims.aud.length > 1;
    if (claims['azp'] === undefined ? isForSeveral : claims['azp'] !== site.clientId)
      throw new AppError('launch-elsewhere', 'it is for another party');
    if (!(await this.#sites.useOnce(`${site.id} ${begun.nonce}`, begun.until, now)))
      throw new AppError('launch-again', 'its nonce was used');
    const launch = readLaunch(claims);
    if (!launch) throw new AppError('launch-unfit', 'claims are missing');
    return launch;
  }

  async #verified(token: string, site: CourseSite, now: number): Promise<JWTPayload> {
    let keys = this.#keys.get(site.keysAddress);
    if (!keys) {
      keys = createRemoteJWKSet(new URL(site.keysAddress), {
        timeoutDuration: ANSWER_MS,
        [customFetch]: askForKeys,
      });
      this.#keys.set(site.keysAddress, keys);
    }
    try {
      // Whose it says it is is told before its signature is asked for: the sentence names what is wrong.
      if (decodeJwt(token).iss !== site.issuer)
        throw new AppError('site-unknown', 'another issuer');
      const options: JWTVerifyOptions = {
        ...{ issuer: site.issuer, audience: site.clientId, algorithms: ALGORITHMS },
        ...{ maxTokenAge: MOST_AGE, clockTolerance: CLOCK_S, currentDate: new Date(now) },
        requiredClaims: ['sub', 'nonce', 'exp'],
      };
      const verified = jwtVerify(token, keys, options).catch(async (error: unknown) => {
        // A key can be replaced under the same name.
        const isOld = error instanceof errors.JWSSignatureVerificationFailed;
        if (!isOld || now - (this.#reloaded.get(site.keysAddress) ?? 0) < RELOAD_MS) throw error;
        this.#reloaded.set(site.keysAddress, now);
        await keys.reload();
        return jwtVerify(token, keys, options);
      });
      return (await verified).payload;
    } catch (error) {
      if (error instanceof AppError) throw error;
      throw problemOf(error);
    }
  }
}
