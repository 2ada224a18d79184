import Router from '@koa/router';
import { CLAIMS, LTI_VERSION, ROSTER_SCOPE } from '@under-chalk/core/course-site/launch';
import { TOOL_PATHS, type CourseSite } from '@under-chalk/core/course-site/site';
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
import Koa, { type Context } from 'koa';
import { koaBody } from 'koa-body';
import { randomUUID } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import * as z from 'zod';
import { COURSE, frameIn, itemSchema, PEOPLE, WEEKS, type Item, type Person } from './course';
import {
  choosingPage,
  coursePage,
  itemPage,
  joinPage,
  outPage,
  peoplePage,
  sendPage,
  toldPage,
} from './pages';

const CLIENT = 'under-chalk-practice';
const DEPLOYMENT = 'the-one-course';
const ROLE = 'http://purl.imsglobal.org/vocab/lis/v2/membership#';
const KEY_ID = 'practice-key';
const LEAVE = 'practice-leave';
const MEMBERS_A_PAGE = 4;
const COOKIE = 'practice-who';

/** What is changed in a message before it is signed, for tests of whoever gets it. */
export type Change = (claims: JWTPayload) => JWTPayload;

export interface PracticeSite {
  readonly url: string;
  /** What a tool has to know of it. */
  readonly joined: CourseSite;
  readonly items: readonly Item[];
  /** From now on; null: as it should be. */
  change(how: Change | null): void;
  /** Signs with another key than it shows. */
  forge(forges: boolean): void;
  stop(): Promise<void>;
}

interface Options {
  /** 0: any that is free. */
  readonly port?: number;
  /** Where Under Chalk is. */
  readonly toolOrigin: string;
  /** A file that what is put into the course is kept in; absent: it is forgotten at the stop. */
  readonly keptIn?: string;
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const bodyOf = (ctx: Context): Record<string, unknown> =>
  (ctx.request as { body?: Record<string, unknown> }).body ?? {};

/**
 * A course site to practise with: its own pages, and a platform of LTI 1.3 (Core; Deep Linking 2.0; Names and Role Provisioning 2.0).
 * It knows of Under Chalk what any site would, and speaks with it by these standards alone.
 */
export const startPracticeSite = async (options: Options): Promise<PracticeSite> => {
  const { toolOrigin, keptIn, port = 0 } = options;
  const [shown, other] = await Promise.all([generateKeyPair('RS256'), generateKeyPair('RS256')]);
  const publicKey: JWK = {
    ...(await exportJWK(shown.publicKey)),
    kid: KEY_ID,
    alg: 'RS256',
    use: 'sig',
  };
  const toolKeys = createRemoteJWKSet(new URL(TOOL_PATHS.keys, toolOrigin), {
    cooldownDuration: 0,
  });
  let items: Item[] = keptIn
    ? z
        .array(itemSchema)
        .catch([])
        .parse(JSON.parse(await readFile(keptIn, 'utf8').catch(() => '[]')))
    : [];
  let change: Change | null = null;
  let key: CryptoKey = shown.privateKey;
  let url = '';
  /** The week that something is being chosen for, by whom. */
  const choosing = new Map<string, (typeof WEEKS)[number]>();

  const add = async (item: Omit<Item, 'id'>) => {
    items = [...items, { ...item, id: randomUUID() }];
    if (keptIn) await writeFile(keptIn, JSON.stringify(items));
  };
  const joined = (): CourseSite => ({
    ...{ id: 'practice-course-site', name: 'The practice course site', issuer: url },
    ...{ clientId: CLIENT, authAddress: `${url}/authorize`, tokenAddress: `${url}/token` },
    keysAddress: `${url}/keys`,
  });
  const app = new Koa();
  const router = new Router();
  const whoIs = (ctx: Context): Person | null =>
    PEOPLE.find(({ id }) => id === ctx.cookies.get(COOKIE)) ?? null;
  /** For those who have said who they are. */
  const known =
    (work: (ctx: Context, who: Person) => Promise<void> | void) =>
    async (raw: unknown): Promise<void> => {
      const ctx = raw as Context;
      const who = whoIs(ctx);
      if (!who) ctx.redirect('/');
      else await work(ctx, who);
    };
  const html = (ctx: Context, body: string) => {
    ctx.type = 'html';
    ctx.body = body;
  };

  router.get('/', (ctx) => html(ctx as unknown as Context, peoplePage()));
  router.post('/as/:id', (ctx) => {
    ctx.cookies.set(COOKIE, String(ctx['params'].id), { httpOnly: true, sameSite: 'lax' });
    ctx.redirect('/course');
  });
  router.get(
    '/course',
    known((ctx, who) => html(ctx, coursePage(who, items))),
  );
  router.get(
    '/item/:id',
    known((ctx, who) => {
      const item = items.find(({ id }) => id === ctx['params'].id);
      html(ctx, item ? itemPage(who, item) : toldPage('There is nothing here.', who));
    }),
  );
  router.post(
    '/paste',
    known(async (ctx, who) => {
      const frame = frameIn(textOf(bodyOf(ctx)['code']));
      const week = WEEKS.find((one) => one === bodyOf(ctx)['week']);
      if (!who.teaches || !frame || !week)
        return html(ctx, toldPage('That is no code for a frame.', who));
      await add({ week, title: frame.title, shows: { is: 'frame', address: frame.address } });
      ctx.redirect('/course');
    }),
  );
  router.post(
    '/choose',
    known((ctx, who) => {
      const week = WEEKS.find((one) => one === bodyOf(ctx)['week']);
      if (!who.teaches || !week)
        return html(ctx, toldPage('Only who teaches puts something in.', who));
      choosing.set(who.id, week);
      return html(ctx, choosingPage(who));
    }),
  );

  // What whoever joins it has to be told.
  router.get('/join', (ctx) => html(ctx as unknown as Context, joinPage(joined())));
  router.get('/join.json', (ctx) => {
    ctx.body = joined();
  });

  // A launch begins with the tool being told that somebody comes (LTI Security Framework 1.0, 5.1.1).
  router.get(
    '/launch/:what',
    known((ctx, who) => {
      const what = String(ctx['params'].what);
      const item = items.find(({ id }) => id === what);
      const target =
        item?.shows.is === 'tool' ? item.shows.address : toolOrigin + TOOL_PATHS.launch;
      html(
        ctx,
        sendPage(toolOrigin + TOOL_PATHS.login, {
          ...{ iss: url, login_hint: who.id, target_link_uri: target, client_id: CLIENT },
          ...{ lti_message_hint: what, lti_deployment_id: DEPLOYMENT },
        }),
      );
    }),
  );
  const claimsOf = (who: Person, what: string): JWTPayload => {
    const item = items.find(({ id }) => id === what);
    const about = {
      ...{ sub: `practice-${who.id}`, name: who.name, email: who.address, azp: CLIENT },
      [CLAIMS.version]: LTI_VERSION,
      [CLAIMS.deployment]: DEPLOYMENT,
      [CLAIMS.roles]: [`${ROLE}${who.teaches ? 'Instructor' : 'Learner'}`],
      [CLAIMS.context]: { ...COURSE, type: ['CourseOffering'] },
      [CLAIMS.roster]: {
        context_memberships_url: `${url}/courses/${COURSE.id}/members`,
        service_versions: ['2.0'],
      },
    };
    if (what === 'choose')
      return {
        ...about,
        [CLAIMS.type]: 'LtiDeepLinkingRequest',
        [CLAIMS.target]: toolOrigin + TOOL_PATHS.launch,
        [CLAIMS.choosing]: {
          ...{ deep_link_return_url: `${url}/chosen`, accept_types: ['ltiResourceLink'] },
          ...{ accept_presentation_document_targets: ['iframe'], data: `for ${who.id}` },
        },
      };
    const tool = item?.shows.is === 'tool' ? item.shows : null;
    return {
      ...about,
      [CLAIMS.type]: 'LtiResourceLinkRequest',
      [CLAIMS.target]: tool?.address ?? toolOrigin + TOOL_PATHS.launch,
      [CLAIMS.link]: { id: what, title: item?.title ?? '' },
      [CLAIMS.custom]: tool?.custom ?? {},
    };
  };
  router.get(
    '/authorize',
    known(async (ctx, who) => {
      const asked = Object.fromEntries(
        Object.entries(ctx.query).map(([name, value]) => [name, textOf(value)]),
      );
      const back = toolOrigin + TOOL_PATHS.launch;
      const fits =
        asked['client_id'] === CLIENT &&
        asked['redirect_uri'] === back &&
        asked['login_hint'] === who.id &&
        asked['response_type'] === 'id_token';
      if (!fits) return html(ctx, toldPage('That was not asked for as it should be.', who));
      const now = Math.floor(Date.now() / 1000);
      const claims: JWTPayload = {
        ...claimsOf(who, asked['lti_message_hint'] ?? ''),
        ...{ iss: url, aud: CLIENT, iat: now, exp: now + 300, nonce: asked['nonce'] },
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

  const chosenSchema = z.object({
    [CLAIMS.data]: z.string(),
    [CLAIMS.chosen]: z.array(
      z.object({
        type: z.literal('ltiResourceLink'),
        title: z.string(),
        url: z.url(),
        custom: z.record(z.string(), z.string()).default({}),
      }),
    ),
  });
  router.post('/chosen', async (raw) => {
    const ctx = raw as unknown as Context;
    const { payload } = await jwtVerify(textOf(bodyOf(ctx)['JWT']), toolKeys, {
      ...{ issuer: CLIENT, audience: url },
    });
    const told = chosenSchema.parse(payload);
    const [, who = ''] = /^for (\w+)$/.exec(told[CLAIMS.data]) ?? [];
    const week = choosing.get(who) ?? WEEKS[0];
    for (const { title, url: address, custom } of told[CLAIMS.chosen])
      await add({ week, title, shows: { is: 'tool', address, custom } });
    html(ctx, outPage('/course'));
  });

  router.post('/token', async (raw) => {
    const ctx = raw as unknown as Context;
    const body = bodyOf(ctx);
    const { payload } = await jwtVerify(textOf(body['client_assertion']), toolKeys, {
      ...{ issuer: CLIENT, subject: CLIENT, audience: `${url}/token` },
    });
    if (!payload.jti || body['scope'] !== ROSTER_SCOPE) ctx.throw(400);
    ctx.body = { access_token: LEAVE, token_type: 'Bearer', expires_in: 3600, scope: ROSTER_SCOPE };
  });
  router.get('/courses/:id/members', (raw) => {
    const ctx = raw as unknown as Context;
    if (ctx.get('Authorization') !== `Bearer ${LEAVE}`) ctx.throw(401);
    const from = Number(ctx.query['from'] ?? 0);
    const next = from + MEMBERS_A_PAGE;
    if (next < PEOPLE.length) ctx.set('Link', `<${url}${ctx.path}?from=${next}>; rel="next"`);
    ctx.body = {
      ...{ id: url + ctx.path, context: COURSE },
      members: PEOPLE.slice(from, next).map(({ id, name, address, teaches }) => ({
        ...{ user_id: `practice-${id}`, name, email: address, status: 'Active' },
        roles: [`${ROLE}${teaches ? 'Instructor' : 'Learner'}`],
      })),
    };
    ctx.type = 'application/vnd.ims.lti-nrps.v2.membershipcontainer+json';
  });

  // Who is who is kept by host name: one of them is enough.
  app.use((ctx, next) =>
    ctx.method !== 'GET' || ctx.host === new URL(url).host ? next() : ctx.redirect(url + ctx.url),
  );
  app.use(koaBody({ multipart: false }));
  app.use(router.routes());
  app.silent = true;
  const server = app.listen(port, '127.0.0.1');
  await new Promise((resolve, reject) => server.once('listening', resolve).once('error', reject));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    url,
    joined: joined(),
    get items() {
      return items;
    },
    change: (how) => {
      change = how;
    },
    forge: (forges) => {
      key = forges ? other.privateKey : shown.privateKey;
    },
    stop: async () => {
      server.close();
      server.closeAllConnections();
    },
  };
};
