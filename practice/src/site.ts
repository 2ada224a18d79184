import Router from '@koa/router';
import { TOOL_PATHS, type CourseSite } from '@under-chalk/core/course-site/site';
import Koa, { type Context } from 'koa';
import { koaBody } from 'koa-body';
import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { assignments } from './assignments';
import { frameIn, PEOPLE, WEEKS, type Item, type Person, type Score, type Tool } from './course';
import { Kept } from './kept';
import {
  choosingPage,
  coursePage,
  itemPage,
  joinPage,
  newsPage,
  peoplePage,
  scoresPage,
  toldPage,
} from './pages';
import { startPlatform, type Change } from './platform';
import { registration } from './registration';
import { bodyOf, html, textOf, type Known } from './visit';

export type { Change };

const CLIENT = 'under-chalk-practice';
const COOKIE = 'practice-who';

export interface PracticeSite {
  readonly url: string;
  /** What a tool has to know of it, where it is typed in. */
  readonly joined: CourseSite;
  readonly items: readonly Item[];
  readonly scores: readonly Score[];
  /** A tool that has joined by itself. */
  readonly tool: Tool | null;
  /** From now on; null: as it should be. */
  change(how: Change | null): void;
  /** Signs with another key than it shows. */
  forge(forges: boolean): void;
  /** Gives tools nothing, and takes nothing from them. */
  goAway(goes: boolean): void;
  /** Whether its pages keep something for tools (LTI postMessage Storage 1.0); they do at first. */
  offerStorage(offers: boolean): void;
  /** Takes a column of scores out. */
  dropColumn(columnId: string): Promise<void>;
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

/**
 * A course site to practise with: its own pages, and a platform of LTI 1.3. It knows of Under Chalk what any site would, and speaks with it
 * by these standards alone.
 */
export const startPracticeSite = async (options: Options): Promise<PracticeSite> => {
  const { toolOrigin, keptIn, port = 0 } = options;
  const kept = await Kept.open(keptIn);
  let url = '';
  const typedIn: Tool = {
    ...{ clientId: CLIENT, name: 'Under Chalk', login: toolOrigin + TOOL_PATHS.login },
    ...{ keys: toolOrigin + TOOL_PATHS.keys, target: toolOrigin + TOOL_PATHS.launch },
    redirects: [toolOrigin + TOOL_PATHS.launch],
  };
  const joined = (): CourseSite => ({
    ...{ id: 'practice-course-site', name: 'The practice course site', issuer: url },
    ...{ clientId: CLIENT, authAddress: `${url}/authorize`, tokenAddress: `${url}/token` },
    keysAddress: `${url}/keys`,
  });
  const whoIs = (ctx: Context): Person | null =>
    PEOPLE.find(({ id }) => id === ctx.cookies.get(COOKIE)) ?? null;
  const known: Known = (work) => async (raw) => {
    const ctx = raw as Context;
    const who = whoIs(ctx);
    if (!who) ctx.redirect('/');
    else await work(ctx, who);
  };
  const platform = await startPlatform({
    ...{ kept, known, url: () => url, tool: () => kept.now.tool ?? typedIn },
  });
  const router = new Router();

  router.get('/', (ctx) => html(ctx as unknown as Context, peoplePage()));
  router.post('/as/:id', (ctx) => {
    // Tools in a frame send people back to here to be told who they are.
    ctx.cookies.secure = true;
    ctx.cookies.set(COOKIE, String(ctx['params'].id), {
      ...{ httpOnly: true, sameSite: 'none', secure: true },
    });
    ctx.redirect('/course');
  });
  router.get(
    '/course',
    known((ctx, who) => html(ctx, coursePage(who, kept.now.items))),
  );
  router.get(
    '/item/:id',
    known((ctx, who) => {
      const { items, handedIn } = kept.now;
      const item = items.find(({ id }) => id === ctx['params'].id);
      html(ctx, item ? itemPage(who, item, handedIn) : toldPage('There is nothing here.', who));
    }),
  );
  router.get(
    '/scores',
    known((ctx, who) => html(ctx, scoresPage(who, kept.now.columns, kept.now.scores))),
  );
  router.get(
    '/news',
    known((ctx, who) => html(ctx, newsPage(who, kept.now.news))),
  );
  router.post(
    '/news',
    known(async (ctx, who) => {
      const text = textOf(bodyOf(ctx)['text']).trim();
      if (!who.teaches || text === '') return html(ctx, toldPage('Words are needed.', who));
      const address = frameIn(textOf(bodyOf(ctx)['code']))?.address ?? null;
      await kept.change({ news: [{ id: randomUUID(), text, address }, ...kept.now.news] });
      ctx.redirect('/news');
    }),
  );
  router.post(
    '/paste',
    known(async (ctx, who) => {
      const frame = frameIn(textOf(bodyOf(ctx)['code']));
      const week = WEEKS.find((one) => one === bodyOf(ctx)['week']);
      if (!who.teaches || !frame || !week)
        return html(ctx, toldPage('That is no code for a frame.', who));
      const { title, address } = frame;
      const item = { id: randomUUID(), week, title, shows: { is: 'frame' as const, address } };
      await kept.change({ items: [...kept.now.items, item] });
      ctx.redirect('/course');
    }),
  );
  router.post(
    '/choose',
    known((ctx, who) => {
      const week = WEEKS.find((one) => one === bodyOf(ctx)['week']);
      if (!who.teaches || !week)
        return html(ctx, toldPage('Only who teaches puts something in.', who));
      platform.choosing.set(who.id, week);
      return html(ctx, choosingPage(who));
    }),
  );

  // What whoever joins it has to be told, where it is typed in.
  router.get('/join', (ctx) => html(ctx as unknown as Context, joinPage(joined())));
  router.get('/join.json', (ctx) => {
    ctx.body = joined();
  });
  platform.routes(router);
  registration(router, { kept, known, url: () => url });
  assignments(router, { kept, known, folder: keptIn && `${keptIn}-files` });

  const app = new Koa();
  // Who is who is kept by host name: one of them is enough.
  app.use((ctx, next) =>
    ctx.method !== 'GET' || ctx.host === new URL(url).host ? next() : ctx.redirect(url + ctx.url),
  );
  // What tools send has names of its own for JSON; files are taken where they are handed in.
  app.use(koaBody({ multipart: false, jsonTypes: ['application/json', 'application/*+json'] }));
  app.use(router.routes());
  app.silent = true;
  const server = app.listen(port, '127.0.0.1');
  await new Promise((resolve, reject) => server.once('listening', resolve).once('error', reject));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    url,
    joined: joined(),
    get items() {
      return kept.now.items;
    },
    get scores() {
      return kept.now.scores;
    },
    get tool() {
      return kept.now.tool;
    },
    change: platform.change,
    forge: platform.forge,
    goAway: platform.goAway,
    offerStorage: platform.offerStorage,
    dropColumn: (columnId) =>
      kept.change({ columns: kept.now.columns.filter(({ id }) => id !== columnId) }),
    stop: async () => {
      server.close();
      server.closeAllConnections();
    },
  };
};
