import { readMembers, ROSTER_SCOPE, type Member } from '@under-chalk/core/course-site/launch';
import type { CourseSite } from '@under-chalk/core/course-site/site';
import { TellableError } from '@under-chalk/core/errors/errors';
import * as z from 'zod';
import type { ToolKeys } from './tool-keys';

const MEMBERS = 'application/vnd.ims.lti-nrps.v2.membershipcontainer+json';
const ANSWER_MS = 10_000;
/** Pages of a roster that are read, and bytes of each. */
const MOST_PAGES = 50;
const MOST_BYTES = 5_000_000;

const tokenSchema = z.object({ access_token: z.string().min(1).max(16_000) });

/** Asks a site; whatever it answers otherwise than well is told as that it doesn't. @throws TellableError `site-unreachable` */
const asked = async (address: string, init: RequestInit): Promise<Response> => {
  const unreachable = (why: string, cause?: unknown) =>
    new TellableError('site-unreachable', why, { cause });
  const response = await fetch(address, {
    ...{ ...init, signal: AbortSignal.timeout(ANSWER_MS), redirect: 'error' },
  }).catch((error: unknown) => {
    throw unreachable(String(error), error);
  });
  if (!response.ok) throw unreachable(`it answers ${response.status}`);
  return response;
};

const jsonOf = async (response: Response): Promise<unknown> => {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of response.body ?? []) {
    parts.push(part as Uint8Array);
    bytes += (part as Uint8Array).length;
    if (bytes > MOST_BYTES) throw new TellableError('site-unreachable', 'its answer is too long');
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch (error) {
    throw new TellableError('site-unreachable', 'its answer can’t be read', { cause: error });
  }
};

/** The next page of a roster, as it says itself (RFC 8288). */
const nextOf = (link: string | null, site: string): string | null => {
  const address = /<([^>]+)>\s*;[^,]*rel="?next"?/i.exec(link ?? '')?.[1];
  // It goes on where it began, and nowhere else.
  return address && URL.parse(address)?.origin === new URL(site).origin ? address : null;
};

/** Leave to ask a site for something (OAuth 2.0 client credentials, with an assertion that we sign; RFC 7523). */
const leaveTo = async (scope: string, site: CourseSite, keys: ToolKeys): Promise<string> => {
  const assertion = await keys.signed({ sub: site.clientId }, site.clientId, site.tokenAddress);
  const response = await asked(site.tokenAddress, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({
      ...{ grant_type: 'client_credentials', scope },
      client_assertion_type: 'urn:ietf:params:oauth:client-assertion-type:jwt-bearer',
      client_assertion: assertion,
    }),
  });
  const told = tokenSchema.safeParse(await jsonOf(response));
  if (!told.success) throw new TellableError('site-unreachable', 'it gives no leave');
  return told.data.access_token;
};

/**
 * Who learns in a course of a site (LTI Names and Role Provisioning Services 2.0).
 *
 * @param address that the site told with a launch
 * @throws TellableError `site-unreachable`
 */
export const rosterOf = async (
  site: CourseSite,
  address: string,
  keys: ToolKeys,
): Promise<Member[]> => {
  const leave = await leaveTo(ROSTER_SCOPE, site, keys);
  const all: Member[] = [];
  let next: string | null = address;
  for (let page = 0; next !== null && page < MOST_PAGES; page++) {
    const response: Response = await asked(next, {
      headers: { Authorization: `Bearer ${leave}`, Accept: MEMBERS },
    });
    const members = readMembers(await jsonOf(response));
    if (!members) throw new TellableError('site-unreachable', 'its roster can’t be read');
    all.push(...members);
    next = nextOf(response.headers.get('Link'), address);
  }
  return all;
};
