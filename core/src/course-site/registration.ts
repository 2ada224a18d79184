import * as z from 'zod';
import { cleanLine } from '../text/clean';
import { ROSTER_SCOPE } from './launch';
import { SCORE_SCOPE } from './score';
import {
  courseSiteSchema,
  nameOfSite,
  siteAddressSchema,
  TOOL_PATHS,
  type CourseSite,
} from './site';

const PLATFORM = 'https://purl.imsglobal.org/spec/lti-platform-configuration';
const TOOL = 'https://purl.imsglobal.org/spec/lti-tool-configuration';

const platformSchema = z.object({
  issuer: z.string().min(1).max(500),
  authorization_endpoint: siteAddressSchema,
  token_endpoint: siteAddressSchema,
  jwks_uri: siteAddressSchema,
  registration_endpoint: siteAddressSchema,
  scopes_supported: z.array(z.string()).default([]),
  [PLATFORM]: z
    .object({
      product_family_code: z.string().overwrite(cleanLine).max(120).optional(),
    })
    .optional(),
});

/** What a course site says of itself (LTI Dynamic Registration 1.0, 3.4; OpenID Connect Discovery 1.0). */
export type Platform = z.infer<typeof platformSchema>;

/**
 * Reads what a site says of itself; null where something is missing, or it speaks for another.
 *
 * @param from where it says so: an issuer is believed at its own host alone
 */
export const readPlatform = (told: unknown, from: string): Platform | null => {
  const platform = platformSchema.safeParse(told).data;
  if (!platform) return null;
  const there = URL.parse(from)?.host;
  const at = URL.parse(platform.registration_endpoint);
  // Where it takes tools in may be elsewhere; then it has to be closed on the way.
  const isSafe = at?.host === there || at?.protocol === 'https:';
  return URL.parse(platform.issuer)?.host === there && isSafe ? platform : null;
};

/** What we ask a site to know us by (LTI Dynamic Registration 1.0, 3.5; OpenID Connect Dynamic Client Registration 1.0). */
export const registrationFor = (
  { scopes_supported: scopes }: Platform,
  origin: string,
): Record<string, unknown> => {
  const target = origin + TOOL_PATHS.launch;
  return {
    application_type: 'web',
    response_types: ['id_token'],
    grant_types: ['implicit', 'client_credentials'],
    initiate_login_uri: origin + TOOL_PATHS.login,
    redirect_uris: [target],
    jwks_uri: origin + TOOL_PATHS.keys,
    client_name: 'Under Chalk',
    token_endpoint_auth_method: 'private_key_jwt',
    // No more than it can give.
    scope: [ROSTER_SCOPE, SCORE_SCOPE].filter((one) => scopes.includes(one)).join(' '),
    [TOOL]: {
      ...{ domain: new URL(origin).host, target_link_uri: target },
      description: 'Short lesson films, for those whom they are meant for.',
      claims: ['iss', 'sub', 'name', 'given_name', 'family_name', 'email'],
      messages: [
        { type: 'LtiResourceLinkRequest', target_link_uri: target },
        {
          type: 'LtiDeepLinkingRequest',
          ...{ target_link_uri: target, label: 'Choose a film from Under Chalk' },
        },
      ],
    },
  };
};

/** What a site that has taken us in is known as, by what it answers; null where it gives us no name that can be kept. */
export const siteOf = (
  { issuer, authorization_endpoint, token_endpoint, jwks_uri }: Platform,
  answered: unknown,
  id: string,
): CourseSite | null => {
  const told = z.object({ client_id: z.string() }).safeParse(answered).data;
  const site = courseSiteSchema.safeParse({
    ...{ id, name: nameOfSite(issuer), issuer, clientId: told?.client_id },
    ...{ authAddress: authorization_endpoint, tokenAddress: token_endpoint },
    keysAddress: jwks_uri,
  });
  return site.data ?? null;
};
