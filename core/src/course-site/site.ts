import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';

const addressSchema = z
  .url({ protocol: /^https?$/ })
  .max(500)
  .refine((address) => !URL.parse(address)?.username, 'no name in it');

/** A course site that Under Chalk is joined with as a tool (1EdTech LTI 1.3 Core, 3.1.1): what each has to know of the other. */
export const courseSiteSchema = z.object({
  id: idSchema,
  name: z.string().overwrite(cleanLine).trim().min(1).max(120),
  /** Names it in all that it signs. */
  issuer: z.string().trim().min(1).max(500),
  /** What it knows us by. */
  clientId: z.string().trim().min(1).max(200),
  /** Where somebody who comes is sent to say who they are (OpenID Connect, authorization endpoint). */
  authAddress: addressSchema,
  /** Where leave to ask for its rosters is given (OAuth 2.0, token endpoint). */
  tokenAddress: addressSchema,
  /** Its keys (JWKS, RFC 7517). */
  keysAddress: addressSchema,
});
export type CourseSite = z.infer<typeof courseSiteSchema>;

/** Our own addresses, that a course site has to be told. */
export const TOOL_PATHS = {
  login: '/lti/login',
  launch: '/lti/launch',
  keys: '/lti/keys',
  /** Where one joins by itself; a ticket follows. */
  register: '/lti/register',
} as const;
