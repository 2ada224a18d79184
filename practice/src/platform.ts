import type Router from '@koa/router';
import { CLAIMS, LTI_VERSION, ROSTER_SCOPE } from '@under-chalk/core/course-site/launch';
import { SCORE_SCOPE } from '@under-chalk/core/course-site/score';
import {
  createRemoteJWKSet,
  exportJWK,
  generateKeyPair,
  jwtVerify,
  SignJWT,
  type CryptoKey,
  type JWK,
  type JWTPayload,
} from 'jose';
import type { Context } from 'koa';
import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import { COURSE, PEOPLE, userIdOf, WEEKS, type Person, type Tool, type Week } from './course';
import type { Kept } from './kept';
import { outPage, sendPage, toldPage } from './pages';
import { bodyOf, html, leaveIn, textOf, type Known } from './visit';

export const DEPLOYMENT = 'the-one-course';
const ROLE = 'http://purl.imsglobal.org/vocab/lis/v2/membership#';
const KEY_ID = 'practice-key';
const MEMBERS_A_PAGE = 4;
const LEAVES = [ROSTER_SCOPE, SCORE_SCOPE];

/** What is changed in a message before it is signed, for tests of whoever gets it. */
export type Change = (claims: JWTPayload) => JWTPayload;

interface Needs {
  readonly kept: Kept;
  readonly known: Known;
  /** The address of this site, when it is up. */
  readonly url: () => string;
  /** The tool that the course has. */
  readonly tool: () => Tool;
}

const chosenSchema = z.object({
  [CLAIMS.data]: z.string(),
  [CLAIMS.chosen]: z.array(
    z.object({
      type: z.literal('ltiResourceLink'),
      title: z.string(),
      url: z.url(),
      custom: z.record(z.string(), z.string()).default({}),
      lineItem: z
        .object({
          label: z.string().default(''),
          scoreMaximum: z.number().positive(),
          resourceId: z.string().default(''),
          tag: z.string().default(''),
        })
        .optional(),
    }),
  ),
});

const scoreMessageSchema = z
  .object({
    userId: z.string(),
    timestamp: z.iso.datetime({ precision: 3 }),
    scoreGiven: z.number().min(0).optional(),
    scoreMaximum: z.number().positive().optional(),
    activityProgress: z.enum(['Initialized', 'Started', 'InProgress', 'Submitted', 'Completed']),
    gradingProgress: z.enum(['FullyGraded', 'Pending', 'PendingManual', 'Failed', 'NotReady']),
  })
  .refine(({ scoreGiven, scoreMaximum }) => scoreGiven === undefined || scoreMaximum !== undefined);

/** A platform of LTI 1.3: Core, Deep Linking 2.0, Names and Role Provisioning 2.0, Assignment and Grade Services 2.0. */
export const startPlatform = async ({ kept, known, url, tool }: Needs) => {
  const [shown, other] = await Promise.all([generateKeyPair('RS256'), generateKeyPair('RS256')]);
  const publicKey: JWK = {
    ...(await exportJWK(shown.publicKey)),
    ...{ kid: KEY_ID, alg: 'RS256', use: 'sig' },
  };
  let change: Change | null = null;
  let key: CryptoKey = shown.privateKey;
  let away = false;
  let stores = true;
  /** What tools may do, by the leave that they were given. */
  const leaves = new Map<string, readonly string[]>();
  /** The week that something is being chosen for, by whom. */
  const choosing = new Map<string, Week>();

  const signedByTool = async (text: unknown, claims: { audience: string; subject?: string }) => {
    const { clientId, keys } = tool();
    const keySet = createRemoteJWKSet(new URL(keys), { cooldownDuration: 0 });
    return (await jwtVerify(textOf(text), keySet, { issuer: clientId, ...claims })).payload;
  };
  const columnAddress = (columnId: string) => `${url()}/courses/${COURSE.id}/columns/${columnId}`;

  const claimsOf = (who: Person, what: string): JWTPayload => {
    const item = kept.now.items.find(({ id }) => id === what);
    const shows = item?.shows.is === 'tool' ? item.shows : null;
    const { clientId, target } = tool();
    const about = {
      ...{ sub: userIdOf(who), name: who.name, email: who.address, azp: clientId },
      [CLAIMS.version]: LTI_VERSION,
      [CLAIMS.deployment]: DEPLOYMENT,
      [CLAIMS.roles]: [`${ROLE}${who.teaches ? 'Instructor' : 'Learner'}`],
      [CLAIMS.context]: { ...COURSE, type: ['CourseOffering'] },
      [CLAIMS.roster]: {
        context_memberships_url: `${url()}/courses/${COURSE.id}/members`,
        service_versions: ['2.0'],
      },
      [CLAIMS.scores]: {
        scope: [SCORE_SCOPE],
        ...(shows?.columnId ? { lineitem: columnAddress(shows.columnId) } : {}),
      },
    };
    if (what === 'choose')
      return {
        ...about,
        [CLAIMS.type]: 'LtiDeepLinkingRequest',
        [CLAIMS.target]: target,
        [CLAIMS.choosing]: {
          ...{ deep_link_return_url: `${url()}/chosen`, accept_types: ['ltiResourceLink'] },
          ...{ accept_presentation_document_targets: ['iframe'], data: `for ${who.id}` },
          accept_lineitem: true,
        },
      };
    return {
      ...about,
      [CLAIMS.type]: 'LtiResourceLinkRequest',
      [CLAIMS.target]: shows?.address ?? target,
      [CLAIMS.link]: { id: what, title: item?.title ?? '' },
      [CLAIMS.custom]: shows?.custom ?? {},
    };
  };

  /** For tools with leave to do something. */
  const withLeave =
    (scope: string, work: (ctx: Context) => Promise<void> | void) =>
    async (raw: unknown): Promise<void> => {
      const ctx = raw as Context;
      if (away) ctx.throw(503);
      const leave = leaveIn(ctx);
      if (!leaves.has(leave)) ctx.throw(401);
      if (!leaves.get(leave)!.includes(scope)) ctx.throw(403);
      await work(ctx);
    };

  const routes = (router: Router): void => {
    // A launch begins with the tool being told that somebody comes (LTI Security Framework 1.0, 5.1.1).
    router.get(
      '/launch/:what',
      known((ctx, who) => {
        const what = String(ctx['params'].what);
        const item = kept.now.items.find(({ id }) => id === what);
        const { clientId, login, target } = tool();
        html(
          ctx,
          sendPage(login, {
            ...{ iss: url(), login_hint: who.id, client_id: clientId },
            target_link_uri: item?.shows.is === 'tool' ? item.shows.address : target,
            ...{ lti_message_hint: what, lti_deployment_id: DEPLOYMENT },
            ...(stores ? { lti_storage_target: '_parent' } : {}),
          }),
        );
      }),
    );
    router.get(
      '/authorize',
      known(async (ctx, who) => {
        const asked = Object.fromEntries(
          Object.entries(ctx.query).map(([name, value]) => [name, textOf(value)]),
        );
        const { clientId, redirects } = tool();
        const back = asked['redirect_uri'] ?? '';
        const fits =
          asked['client_id'] === clientId &&
          redirects.includes(back) &&
          asked['login_hint'] === who.id &&
          asked['response_type'] === 'id_token';
        if (!fits) return html(ctx, toldPage('That was not asked for as it should be.', who));
        const now = Math.floor(Date.now() / 1000);
        const claims: JWTPayload = {
          ...claimsOf(who, asked['lti_message_hint'] ?? ''),
          ...{ iss: url(), aud: clientId, iat: now, exp: now + 300, nonce: asked['nonce'] },
        };
        const token = await new SignJWT(change ? change(claims) : claims)
          .setProtectedHeader({ alg: 'RS256', kid: KEY_ID, typ: 'JWT' })
          .sign(key);
        return html(ctx, sendPage(back, { id_token: token, state: asked['state'] ?? '' }));
      }),
    );
    router.get('/keys', (ctx) => {
      ctx.body = { keys: [publicKey] };
    });

    router.post('/chosen', async (raw) => {
      const ctx = raw as unknown as Context;
      const told = chosenSchema.parse(await signedByTool(bodyOf(ctx)['JWT'], { audience: url() }));
      const [, who = ''] = /^for (\w+)$/.exec(told[CLAIMS.data]) ?? [];
      const week = choosing.get(who) ?? WEEKS[0];
      let { items, columns } = kept.now;
      for (const { title, url: address, custom, lineItem } of told[CLAIMS.chosen]) {
        const columnId = lineItem ? randomUUID() : null;
        if (lineItem && columnId) {
          const { label, scoreMaximum: most, resourceId, tag } = lineItem;
          columns = [...columns, { id: columnId, label: label || title, most, resourceId, tag }];
        }
        const shows = { is: 'tool' as const, address, custom, columnId };
        items = [...items, { id: randomUUID(), week, title, shows }];
      }
      await kept.change({ items, columns });
      html(ctx, outPage('/course'));
    });

    router.post('/token', async (raw) => {
      const ctx = raw as unknown as Context;
      if (away) ctx.throw(503);
      const body = bodyOf(ctx);
      const { jti } = await signedByTool(body['client_assertion'], {
        ...{ subject: tool().clientId, audience: `${url()}/token` },
      });
      const scopes = textOf(body['scope']).split(' ');
      if (!jti || !scopes.every((scope) => LEAVES.includes(scope))) ctx.throw(400);
      const leave = randomUUID();
      leaves.set(leave, scopes);
      const scope = scopes.join(' ');
      ctx.body = { access_token: leave, token_type: 'Bearer', expires_in: 3600, scope };
    });
    router.get(
      '/courses/:id/members',
      withLeave(ROSTER_SCOPE, (ctx) => {
        const from = Number(ctx.query['from'] ?? 0);
        const next = from + MEMBERS_A_PAGE;
        if (next < PEOPLE.length) ctx.set('Link', `<${url()}${ctx.path}?from=${next}>; rel="next"`);
        ctx.body = {
          ...{ id: url() + ctx.path, context: COURSE },
          members: PEOPLE.slice(from, next).map((one) => ({
            ...{ user_id: userIdOf(one), name: one.name, email: one.address, status: 'Active' },
            roles: [`${ROLE}${one.teaches ? 'Instructor' : 'Learner'}`],
          })),
        };
        ctx.type = 'application/vnd.ims.lti-nrps.v2.membershipcontainer+json';
      }),
    );
    router.post(
      '/courses/:id/columns/:column/scores',
      withLeave(SCORE_SCOPE, async (ctx) => {
        if (!ctx.is('application/vnd.ims.lis.v1.score+json')) ctx.throw(415);
        const { columns, scores } = kept.now;
        const column = columns.find(({ id }) => id === ctx['params'].column);
        if (!column) return ctx.throw(404);
        const read = scoreMessageSchema.safeParse(bodyOf(ctx));
        if (!read.success) return ctx.throw(400);
        const { userId, timestamp: at, scoreGiven, scoreMaximum } = read.data;
        if (!PEOPLE.some((one) => userIdOf(one) === userId)) ctx.throw(404);
        const isOf = (one: { columnId: string; userId: string }) =>
          one.columnId === column.id && one.userId === userId;
        // What is older than what is known is no news (3.4.4).
        if (scores.some((one) => isOf(one) && one.at > at)) ctx.throw(409);
        const score = {
          ...{ columnId: column.id, userId, at },
          ...{ given: scoreGiven ?? null, most: scoreMaximum ?? null },
          ...{ progress: read.data.activityProgress, grading: read.data.gradingProgress },
        };
        await kept.change({ scores: [...scores.filter((one) => !isOf(one)), score] });
        ctx.status = 204;
      }),
    );
  };

  return {
    routes,
    choosing,
    change: (how: Change | null) => {
      change = how;
    },
    forge: (forges: boolean) => {
      key = forges ? other.privateKey : shown.privateKey;
    },
    goAway: (goes: boolean) => {
      away = goes;
    },
    offerStorage: (offers: boolean) => {
      stores = offers;
    },
  };
};
