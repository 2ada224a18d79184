import { readMembers, ROSTER_SCOPE, type Member } from '@under-chalk/core/course-site/launch';
import { isOfSite, type CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import { askedWell, jsonOf, leaveTo } from './site-client';
import type { ToolKeys } from './tool-keys';

const MEMBERS = 'application/vnd.ims.lti-nrps.v2.membershipcontainer+json';
/** Pages of a roster that are read. */
const MOST_PAGES = 50;

/** The next page of a roster, as it says itself (RFC 8288). */
const nextOf = (link: string | null, site: string): string | null => {
  const address = /<([^>]+)>\s*;[^,]*rel="?next"?/i.exec(link ?? '')?.[1];
  // It goes on where it began, and nowhere else.
  return address && URL.parse(address)?.origin === new URL(site).origin ? address : null;
};

/**
 * Who learns in a course of a site (LTI Names and Role Provisioning Services 2.0).
 *
 * @param address that the site told with a launch
 * @throws AppError `site-unreachable`; `site-unfit` for an address at another host than the site's own
 */
export const rosterOf = async (
  site: CourseSite,
  address: string,
  keys: ToolKeys,
): Promise<Member[]> => {
  if (!isOfSite(site, address)) throw new AppError('site-unfit', 'its roster is elsewhere');
  const leave = await leaveTo(ROSTER_SCOPE, site, keys);
  const all: Member[] = [];
  let next: string | null = address;
  for (let page = 0; next !== null && page < MOST_PAGES; page++) {
    const response: Response = await askedWell(next, {
      headers: { Authorization: leave, Accept: MEMBERS },
    });
    const members = readMembers(await jsonOf(response));
    if (!members) throw new AppError('site-unreachable', 'its roster can’t be read');
    all.push(...members);
    next = nextOf(response.headers.get('Link'), address);
  }
  return all;
};
