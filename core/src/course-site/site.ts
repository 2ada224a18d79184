import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';

/** An address of a course site. Nothing that is stored holds a name or a password of somebody. */
export const siteAddressSchema = z
  .url({ protocol: /^https?$/ })
  .max(500)
  .refine((address) => {
    const url = URL.parse(address);
    return url?.username === '' && url.password === '';
  }, 'no name and no password in it');

const MOST_NAME = 120;

/** A course site that Under Chalk is joined with as a tool (1EdTech LTI 1.3 Core, 3.1.1): what each has to know of the other. */
export const courseSiteSchema = z.object({
  id: idSchema,
  name: z.string().overwrite(cleanLine).trim().min(1).max(MOST_NAME),
  /** Names it in all that it signs. */
  issuer: z.string().trim().min(1).max(500),
  /** What it knows us by. */
  clientId: z.string().trim().min(1).max(200),
  /** Where somebody who comes is sent to say who they are (OpenID Connect, authorization endpoint). */
  authAddress: siteAddressSchema,
  /** Where leave to ask for its rosters is given (OAuth 2.0, token endpoint). */
  tokenAddress: siteAddressSchema,
  /** Its keys (JWKS, RFC 7517). */
  keysAddress: siteAddressSchema,
});
export type CourseSite = z.infer<typeof courseSiteSchema>;

/** What a site is called until its teacher calls it something else: its host, shortened where that is longer than a name may be. */
export const nameOfSite = (issuer: string): string =>
  (URL.parse(issuer)?.host || issuer).slice(-MOST_NAME);

/**
 * Whether an address is at a host of the site's own registration. What we are given leave for goes to no other, whatever a
 * message of the site says.
 */
export const isOfSite = (
  { issuer, authAddress, tokenAddress, keysAddress }: CourseSite,
  address: string,
): boolean => {
  const at = URL.parse(address);
  if (!at) return false;
  const own = [issuer, authAddress, tokenAddress, keysAddress].map((one) => URL.parse(one));
  return own.some((one) => one?.host === at.host && one.protocol === at.protocol);
};

/** Our own addresses, that a course site has to be told. */
export const TOOL_PATHS = {
  login: '/lti/login',
  launch: '/lti/launch',
  keys: '/lti/keys',
  /** Where one joins by itself; a ticket follows. */
  register: '/lti/register',
} as const;
