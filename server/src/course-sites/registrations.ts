import {
  readPlatform,
  registrationFor,
  siteOf,
  type Platform,
} from '@under-chalk/core/course-site/registration';
import type { CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import * as z from 'zod';
import { newId } from '../store/ids';
import type { LinkSeal } from '../store/link-seal';
import { mustBePublic } from './public-address';
import { askedSite, askedWell, jsonOf } from './site-client';
import type { SiteStore } from './site-store';

/** An address for joining is good for so long, once, ms. */
const JOINING_MS = 3_600_000;

const ticketSchema = z.object({ joining: z.string(), until: z.number() });

/** What a site sends along, when it asks a tool to join. */
export const joiningSchema = z.object({
  openid_configuration: z.url({ protocol: /^https?$/ }).max(2_000),
  registration_token: z.string().max(16_000).optional(),
});
export type Joining = z.infer<typeof joiningSchema>;

/** Course sites that take us in by themselves (LTI Dynamic Registration 1.0): none does that its teacher hasn't given an address to. */
export class Registrations {
  readonly #sites: SiteStore;
  readonly #seal: LinkSeal;

  constructor(sites: SiteStore, seal: LinkSeal) {
    this.#sites = sites;
    this.#seal = seal;
  }

  /** A ticket with which one site may join, and until when (ms since 1970). */
  ticket(now = Date.now()): { readonly ticket: string; readonly until: number } {
    const until = now + JOINING_MS;
    return { ticket: this.#seal.sealed(JSON.stringify({ joining: newId(), until })), until };
  }

  /**
   * What a site says of itself, before it joins.
   *
   * @param origin where we are
   * @throws AppError `launch-forged`, `launch-over` for its ticket; `site-unreachable`, `site-unfit`
   */
  async about(
    ticket: string,
    { openid_configuration: from }: Joining,
    origin: string,
  ): Promise<Platform> {
    this.#read(ticket);
    await mustBePublic(from, origin);
    const response = await askedWell(from, { headers: { Accept: 'application/json' } });
    const platform = readPlatform(await jsonOf(response), from);
    if (!platform) throw new AppError('site-unfit', from);
    const { authorization_endpoint, token_endpoint, jwks_uri, registration_endpoint } = platform;
    for (const one of [authorization_endpoint, token_endpoint, jwks_uri, registration_endpoint])
      await mustBePublic(one, origin);
    return platform;
  }

  /**
   * Has a site take us in, and keeps what it knows us by.
   *
   * @param origin where we are
   * @throws AppError as {@link about}; `launch-again` for a ticket that was used; `too-many-sites`
   */
  async join(ticket: string, told: Joining, origin: string): Promise<Platform> {
    const platform = await this.about(ticket, told, origin);
    const { joining, until } = this.#read(ticket);
    const once = `joining ${joining}`;
    if (!(await this.#sites.useOnce(once, until)))
      throw new AppError('launch-again', 'its ticket was used');
    try {
      await this.#sites.set(await this.#registered(platform, told, origin));
    } catch (error) {
      // It counts when the site has taken us in: one that stumbles is tried again.
      await this.#sites.unuse(once);
      throw error;
    }
    return platform;
  }

  async #registered(platform: Platform, told: Joining, origin: string): Promise<CourseSite> {
    const leave = told.registration_token;
    const response = await askedSite(platform.registration_endpoint, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        ...(leave ? { Authorization: `Bearer ${leave}` } : {}),
      },
      body: JSON.stringify(registrationFor(platform, origin)),
    });
    if (!response.ok) throw new AppError('site-unfit', `it answers ${response.status}`);
    const site = siteOf(platform, await jsonOf(response), newId());
    if (!site) throw new AppError('site-unfit', 'it gives us no name that can be kept');
    return site;
  }

  #read(ticket: string): z.infer<typeof ticketSchema> {
    const opened = this.#seal.opened(ticket);
    const read = opened === null ? null : ticketSchema.safeParse(JSON.parse(opened)).data;
    if (!read) throw new AppError('launch-forged', 'its ticket is none of ours');
    if (read.until < Date.now()) throw new AppError('launch-over', 'it joins too late');
    return read;
  }
}
