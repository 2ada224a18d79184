import type Router from '@koa/router';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { CLOSED, type Closed } from '@under-chalk/core/share-link/closed';
import type { PageContent } from '@under-chalk/core/contract/student-pages';
import type { Watch } from '@under-chalk/core/contract/watch';
import { ERRORS } from '@under-chalk/core/errors/errors';
import type { Context } from 'koa';
import type { Parts, State } from '../http/context';
import { originOf } from '../http/security';
import { nothingHtml, studentPageHtml, watchHtml } from '../http/watch-html';
import type { Door } from '../http/who';
import { textFor } from '../messages/student-text';
import { filmOnNow, pageContentFor } from '../jobs/page-content';
import { watchFor } from './watch';

/** The same address is answered in several languages (RFC 9110 12.5.5). */
const vary = (ctx: { vary: (field: string) => void }): void => ctx.vary('Accept-Language');

/** Why there is no page to be seen: it asks for a PIN, or is none. */
const SHUT = ['pin-needed', 'no-page'] as const;

/** The page under a link, and a student's own, with what is told of the film in it. Where no app is built there is none. */
export const watchPageRoute = (router: Router, door: Door, parts: Parts): void => {
  const { appFolder, front } = parts.config;
  if (!appFolder) return;
  const template = readFile(join(appFolder, 'watch', 'page.html'), 'utf8');
  // Told by every request that needs it.
  template.catch(() => undefined);

  const told = async (ctx: Context, token: string): Promise<Watch | Closed> => {
    try {
      const who = await door(ctx.state as State, 'student', { token });
      return who.is === 'student' ? await watchFor(parts, who) : 'not-found';
    } catch (error) {
      const closed = CLOSED.find((code) => code === (error as { code?: string }).code);
      if (closed) return closed;
      throw error;
    }
  };

  router.get('/w/:token', async (ctx) => {
    const token = String(ctx['params'].token);
    const watch = await told(ctx as unknown as Context, token);
    const origin = originOf(front, ctx);
    ctx.status = typeof watch === 'string' ? ERRORS[watch].status : 200;
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-store');
    vary(ctx);
    ctx.body = watchHtml({ template: await template, token, watch, origin, text: textFor(ctx) });
  });

  const pageContentTold = async (
    ctx: Context,
    key: string,
  ): Promise<PageContent | (typeof SHUT)[number]> => {
    try {
      const who = await door(ctx.state as State, 'person', { key });
      return who.is === 'person' ? await pageContentFor(parts, who.visitor) : 'no-page';
    } catch (error) {
      const shut = SHUT.find((code) => code === (error as { code?: string }).code);
      if (shut) return shut;
      throw error;
    }
  };

  // One address for good, for a course's page: what is on now.
  router.get('/s/:key/now', async (ctx) => {
    const pageContent = await pageContentTold(ctx as unknown as Context, String(ctx['params'].key));
    const film = typeof pageContent === 'string' ? undefined : filmOnNow(pageContent);
    ctx.set('Cache-Control', 'no-store');
    if (film) {
      ctx.redirect(`/w/${film.token}`);
      return;
    }
    ctx.status = pageContent === 'no-page' ? ERRORS[pageContent].status : 200;
    ctx.type = 'html';
    vary(ctx);
    const text = textFor(ctx);
    ctx.body = nothingHtml(
      typeof pageContent === 'string'
        ? text.problem(pageContent).message
        : text.t('page.nothing-yet'),
      text,
    );
  });

  router.get('/s/:key', async (ctx) => {
    const pageContent = await pageContentTold(ctx as unknown as Context, String(ctx['params'].key));
    // A PIN is asked for on the page itself.
    ctx.status = pageContent === 'no-page' ? ERRORS[pageContent].status : 200;
    ctx.type = 'html';
    ctx.set('Cache-Control', 'no-store');
    vary(ctx);
    ctx.body = studentPageHtml(await template, pageContent, textFor(ctx));
  });
};
