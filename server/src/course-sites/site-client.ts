import type { CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import * as z from 'zod';
import type { ToolKeys } from './tool-keys';

const ANSWER_MS = 10_000;
/** Most that is read of an answer, bytes. */
const MOST_BYTES = 5_000_000;

const tokenSchema = z.object({ access_token: z.string().min(1).max(16_000) });

const unreachable = (why: string, cause?: unknown) =>
  new AppError('site-unreachable', why, { cause });

/** Asks a site, and gives what it answers, well or not. @throws AppError `site-unreachable` where it doesn’t */
export const askedSite = (address: string, init: RequestInit): Promise<Response> =>
  fetch(address, {
    ...{ ...init, signal: AbortSignal.timeout(ANSWER_MS), redirect: 'error' },
  }).catch((error: unknown) => {
    throw unreachable(String(error), error);
  });

/** Asks a site; whatever it answers otherwise than well is told as that it doesn’t. @throws AppError `site-unreachable` */
export const askedWell = async (address: string, init: RequestInit): Promise<Response> => {
  const response = await askedSite(address, init);
  if (!response.ok) throw unreachable(`it answers ${response.status}`);
  return response;
};

/** What a site answers, read. @throws AppError `site-unreachable` */
export const jsonOf = async (response: Response, mostBytes = MOST_BYTES): Promise<unknown> => {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of response.body ?? []) {
    parts.push(part as Uint8Array);
    bytes += (part as Uint8Array).length;
    if (bytes > mostBytes) throw unreachable('its answer is too long');
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch (error) {
    throw unreachable('its answer can’t be read', error);
  }
};

/**
 * Leave to ask a site for something, as a header says it (OAuth 2.0 client credentials, with an assertion that we sign; RFC 7523).
 *
 * @throws AppError `site-unreachable`
 */
export const leaveTo = async (scope: string, site: CourseSite, keys: ToolKeys): Promise<string> => {
  const assertion = await keys.signed({ sub: site.clientId }, site.clientId, site.tokenAddress);
  const response = await askedWell(site.tokenAddress, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({
      ...{ grant_type: 'client_credentials', scope },
      client_assertion_type: 'urn:ietf:params:oauth:client-assertion-type:jwt-bearer',
      client_assertion: assertion,
    }),
  });
  const told = tokenSchema.safeParse(await jsonOf(response));
  if (!told.success) throw unreachable('it gives no leave');
  return `Bearer ${told.data.access_token}`;
};
