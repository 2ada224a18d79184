import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { givesSchema, SCORE_SCOPE, type Gives } from './score';

/** Names of claims (LTI 1.3 Core; Deep Linking 2.0; Names and Role Provisioning, and Assignment and Grade Services 2.0). */
export const CLAIMS = {
  type: 'https://purl.imsglobal.org/spec/lti/claim/message_type',
  version: 'https://purl.imsglobal.org/spec/lti/claim/version',
  deployment: 'https://purl.imsglobal.org/spec/lti/claim/deployment_id',
  target: 'https://purl.imsglobal.org/spec/lti/claim/target_link_uri',
  roles: 'https://purl.imsglobal.org/spec/lti/claim/roles',
  context: 'https://purl.imsglobal.org/spec/lti/claim/context',
  link: 'https://purl.imsglobal.org/spec/lti/claim/resource_link',
  custom: 'https://purl.imsglobal.org/spec/lti/claim/custom',
  roster: 'https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice',
  scores: 'https://purl.imsglobal.org/spec/lti-ags/claim/endpoint',
  choosing: 'https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings',
  chosen: 'https://purl.imsglobal.org/spec/lti-dl/claim/content_items',
  data: 'https://purl.imsglobal.org/spec/lti-dl/claim/data',
} as const;

export const LTI_VERSION = '1.3.0';
/** Leave to read who is in a course. */
export const ROSTER_SCOPE =
  'https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly';
/** What a chosen film is known by when it is opened. */
export const SHARE_LINK = 'share_link';
/** And what the course is told of those who open it. */
export const GIVES = 'gives';

/** Roles of those who teach a course (LIS context roles, and the short names of some sites). */
const TEACHES =
  /^(https?:\/\/purl\.imsglobal\.org\/vocab\/lis\/v2\/membership#)?(Instructor|ContentDeveloper)$/;
/** @param roles as a site names them */
export const teaches = (roles: readonly string[]): boolean =>
  roles.some((role) => TEACHES.test(role));

const nameSchema = z.string().overwrite(cleanLine).trim().max(200);
const personClaims = {
  name: nameSchema.optional(),
  given_name: nameSchema.optional(),
  family_name: nameSchema.optional(),
  email: z.email().max(254).optional().catch(undefined),
  email_verified: z.unknown().optional(),
};
type PersonClaims = z.infer<z.ZodObject<typeof personClaims>>;

/** A name as somebody is told it by a site; empty where it keeps that to itself. */
const nameOf = ({ name, given_name: given, family_name: family }: PersonClaims): string =>
  name || [given, family].filter(Boolean).join(' ');

/** The address of somebody, unless the site says that nobody has tried it: anybody could have given another's. */
const addressOf = ({ email, email_verified: verified }: PersonClaims): string | null =>
  (verified === undefined || verified === true || verified === 'true') && email ? email : null;

const claimsSchema = z.object({
  sub: z.string().min(1).max(255),
  ...personClaims,
  [CLAIMS.version]: z.literal(LTI_VERSION),
  [CLAIMS.deployment]: z.string().min(1).max(255),
  [CLAIMS.target]: z.string().max(2_000).optional(),
  [CLAIMS.roles]: z.array(z.string()).default([]),
  [CLAIMS.context]: z
    .object({
      id: z.string().min(1).max(255),
      title: nameSchema.optional(),
      label: nameSchema.optional(),
    })
    .optional(),
  [CLAIMS.roster]: z
    .object({ context_memberships_url: z.url({ protocol: /^https?$/ }).max(2_000) })
    .optional(),
});
const resourceSchema = claimsSchema.extend({
  [CLAIMS.type]: z.literal('LtiResourceLinkRequest'),
  [CLAIMS.link]: z.object({ id: z.string().min(1).max(255) }),
  [CLAIMS.custom]: z.record(z.string(), z.unknown()).default({}),
  [CLAIMS.scores]: z
    .object({
      scope: z.array(z.string()).default([]),
      lineitem: z
        .url({ protocol: /^https?$/ })
        .max(2_000)
        .optional(),
    })
    .optional()
    .catch(undefined),
});
const choosingSchema = claimsSchema.extend({
  [CLAIMS.type]: z.literal('LtiDeepLinkingRequest'),
  [CLAIMS.choosing]: z.object({
    deep_link_return_url: z.url({ protocol: /^https?$/ }).max(2_000),
    accept_types: z.array(z.string()).default([]),
    data: z.string().max(8_000).optional(),
    accept_lineitem: z.boolean().optional().catch(undefined),
  }),
});

/** Who comes, from which course, and what for. */
export interface Launch {
  readonly deployment: string;
  readonly person: {
    /** What the site knows them by. */
    readonly sub: string;
    readonly name: string;
    readonly address: string | null;
    readonly isTeacher: boolean;
  };
  readonly course: { readonly id: string; readonly title: string } | null;
  /** Where who is in the course can be asked for; null: nowhere. */
  readonly roster: string | null;
  readonly does:
    | {
        readonly is: 'open';
        readonly shareLinkId: string | null;
        /** What the course is told of them, and where; null: nothing. */
        readonly scores: { readonly gives: Gives; readonly lineItem: string } | null;
      }
    | {
        readonly is: 'choose';
        readonly returnTo: string;
        readonly data: string | null;
        /** What is put in can have a column for scores. */
        readonly takesScores: boolean;
      };
}

/** Reads what a site says of somebody who comes, when its signature has been found right; null where something is missing. */
export const readLaunch = (claims: unknown): Launch | null => {
  const read = z.union([resourceSchema, choosingSchema]).safeParse(claims);
  if (!read.success) return null;
  const told = read.data;
  const context = told[CLAIMS.context];
  const about = {
    deployment: told[CLAIMS.deployment],
    person: {
      ...{ sub: told.sub, name: nameOf(told), address: addressOf(told) },
      isTeacher: teaches(told[CLAIMS.roles]),
    },
    course: context ? { id: context.id, title: context.title || context.label || '' } : null,
    roster: told[CLAIMS.roster]?.context_memberships_url ?? null,
  };
  if (CLAIMS.choosing in told) {
    const {
      deep_link_return_url: returnTo,
      data = null,
      accept_types: takes,
      accept_lineitem: takesScores = true,
    } = told[CLAIMS.choosing];
    // Anything else than links of ours isn't to be had here.
    if (takes.length > 0 && !takes.includes('ltiResourceLink')) return null;
    return { ...about, does: { is: 'choose', returnTo, data, takesScores } };
  }
  const address = URL.parse(told[CLAIMS.target] ?? '');
  // Where a site keeps no values of ours, its address has them.
  const named = (name: string) => told[CLAIMS.custom][name] ?? address?.searchParams.get(name);
  const shareLinkId = idSchema.safeParse(named(SHARE_LINK)).data ?? null;
  const gives = givesSchema.safeParse(named(GIVES)).data;
  const { scope = [], lineitem: lineItem } = told[CLAIMS.scores] ?? {};
  const scores = gives && lineItem && scope.includes(SCORE_SCOPE) ? { gives, lineItem } : null;
  return { ...about, does: { is: 'open', shareLinkId, scores } };
};

const memberSchema = z.object({
  user_id: z.string().min(1).max(255),
  status: z.string().default('Active'),
  roles: z.array(z.string()).default([]),
  ...personClaims,
});
const membersSchema = z.object({ members: z.array(z.unknown()).max(20_000) });

/** Somebody in a course. */
export interface Member {
  readonly sub: string;
  readonly name: string;
  readonly address: string | null;
}

/** Who learns in a course, of a page of its roster (application/vnd.ims.lti-nrps.v2.membershipcontainer+json). Null where it is none. */
export const readMembers = (told: unknown): Member[] | null => {
  const read = membersSchema.safeParse(told);
  if (!read.success) return null;
  return read.data.members.flatMap((one): Member[] => {
    const member = memberSchema.safeParse(one).data;
    if (!member || member.status !== 'Active' || teaches(member.roles)) return [];
    const name = nameOf(member);
    return name === '' ? [] : [{ sub: member.user_id, name, address: addressOf(member) }];
  });
};

/** Films that were chosen, as the claims of the answer (Deep Linking 2.0, 3.2). */
export const chosenClaims = (
  chosen: {
    readonly shareLinkId: string;
    readonly title: string;
    readonly address: string;
    /** What the course is told of those who open it, of so much at most; null: nothing. */
    readonly scores: { readonly gives: Gives; readonly most: number } | null;
  },
  { deployment, data }: { readonly deployment: string; readonly data: string | null },
): Record<string, unknown> => ({
  [CLAIMS.type]: 'LtiDeepLinkingResponse',
  [CLAIMS.version]: LTI_VERSION,
  [CLAIMS.deployment]: deployment,
  ...(data === null ? {} : { [CLAIMS.data]: data }),
  [CLAIMS.chosen]: [
    {
      ...{ type: 'ltiResourceLink', title: chosen.title, url: chosen.address },
      custom: {
        [SHARE_LINK]: chosen.shareLinkId,
        ...(chosen.scores ? { [GIVES]: chosen.scores.gives } : {}),
      },
      ...(chosen.scores
        ? {
            lineItem: {
              ...{ label: chosen.title, scoreMaximum: chosen.scores.most },
              ...{ resourceId: chosen.shareLinkId, tag: chosen.scores.gives },
            },
          }
        : {}),
      iframe: { width: 960, height: 640 },
    },
  ],
});
