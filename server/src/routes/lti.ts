import type Router from '@koa/router';
import { chosenClaims, GIVES, SHARE_LINK, type Launch } from '@under-chalk/core/course-site/launch';
import { givesSchema, scoresFor } from '@under-chalk/core/course-site/score';
import { isOfSite, TOOL_PATHS, type CourseSite } from '@under-chalk/core/course-site/site';
import { AppError, errorText, type ErrorCode } from '@under-chalk/core/errors/errors';
import type { Context } from 'koa';
import { koaBody } from 'koa-body';
import * as z from 'zod';
import { classOf, studentFrom } from '../course-sites/arrivals';
import {
  bindingCookie,
  bindingKey,
  isBound,
  STORAGE_SCRIPT,
} from '../course-sites/browser-binding';
import {
  answerSchema,
  loginSchema,
  STATE_MS,
  storageOrigin,
  type Begun,
} from '../course-sites/launches';
import { joiningSchema } from '../course-sites/registrations';
import {
  choosePage,
  JOINED_SCRIPT,
  joinedPage,
  joinPage,
  keepPage,
  keptPage,
  ownWindowPage,
  SEND_SCRIPT,
  sendPage,
  toldPage,
} from '../course-sites/site-pages';
import type { Parts } from '../http/context';
import { isFromOwnPage, originOf, setFrameCookie } from '../http/security';
import { inClass, type InUnit } from '../jobs/unit-films';
import { wordsFor } from '../jobs/words-for';
import { textFor } from '../messages/student-text';

/** What somebody who chooses films brings back with their choice: sealed, and good for an hour. */
const ticketSchema = z.object({
  ...{ site: z.string(), classId: z.string(), returnTo: z.string(), deployment: z.string() },
  ...{ data: z.string().nullable(), until: z.number() },
});
const CHOOSING_MS = 3_600_000;

const choiceSchema = z.object({
  ticket: z.string().max(24_000),
  share_link: z.string().max(100),
  /** What the course is told of those who open it; absent, or empty: nothing. */
  gives: z.union([givesSchema, z.literal('')]).default(''),
});

const form = koaBody({ json: false, text: false, multipart: false, formLimit: '64kb' });

/**
 * Where course sites send people, by LTI 1.3 (Core; Deep Linking 2.0). Nobody has a session here: what a site says is signed, what
 * comes back to us is sealed, and it is taken only from the browser that it began in.
 */
export const ltiRoutes = (router: Router, parts: Parts): void => {
  const {
    sites,
    siteScores,
    scoreGiver,
    registrations,
    launches,
    toolKeys,
    seal,
    studentPages,
    classPages,
    shareLinks,
  } = parts;
  const choices = seal.for('choices of films');
  const originFor = (ctx: Context) => originOf(parts.config.front, ctx);

  /** Tells in words what is wrong: whoever reads it stands in a frame of their course. */
  const shown = (work: (ctx: Context) => Promise<void>) => async (raw: unknown) => {
    const ctx = raw as Context;
    ctx.set('Cache-Control', 'no-store');
    try {
      await work(ctx);
    } catch (error) {
      const code: ErrorCode =
        error instanceof AppError
          ? error.code
          : error instanceof z.ZodError
            ? 'launch-unfit'
            : 'unexpected';
      if (code === 'unexpected') parts.log.error(ctx.path, error);
      else parts.log.warn(`somebody from a course site was not let in: ${code}`);
      const { message, hint } = textFor(ctx).problem(code);
      ctx.status = errorText(code).status ?? 500;
      ctx.vary('Accept-Language');
      ctx.type = 'html';
      ctx.body = toldPage(message, hint, textFor(ctx).language);
    }
  };

  const cookieOf = (ctx: Context, { nonce }: Begun) =>
    bindingCookie(nonce, parts.config.front.secure || ctx.secure);
  const storageOf = ({ frame, nonce, site }: Begun) =>
    frame === null ? null : { frame, origin: storageOrigin(site), key: bindingKey(nonce) };

  const login = shown(async (ctx) => {
    const told = loginSchema.parse({
      ...ctx.query,
      ...((ctx.request as { body?: object }).body ?? {}),
    });
    const begun = await launches.begin(told, originFor(ctx) + TOOL_PATHS.launch);
    setFrameCookie(ctx, cookieOf(ctx, begun), begun.secret, STATE_MS / 1_000);
    const storage = storageOf(begun);
    if (!storage) return ctx.redirect(begun.to);
    ctx.type = 'html';
    ctx.body = keepPage(storage, begun.secret, begun.to, textFor(ctx));
  });
  router.get(TOOL_PATHS.login, login);
  router.post(TOOL_PATHS.login, form, login);

  /** What somebody opens: a film, or all that are for them. */
  const open = async (
    ctx: Context,
    site: CourseSite,
    launch: Launch,
    { shareLinkId, scores }: Extract<Launch['does'], { is: 'open' }>,
  ) => {
    const { classId } = await classOf(parts, site, launch);
    if (launch.person.isTeacher) {
      const { key } = await classPages.page(classId);
      const visitor = key === null ? undefined : await classPages.visitorWith(key);
      if (!visitor) throw new AppError('no-page', `of class ${classId}`);
      if (shareLinkId === null) return ctx.redirect(`/s/${key}`);
      const [pass] = await classPages.passes(visitor, [(await shareLinks.get(shareLinkId)).id]);
      return ctx.redirect(`/w/${pass}`);
    }
    const studentId = await studentFrom(parts, site, classId, launch);
    const { key, away } = await studentPages.page(studentId);
    if (away || key === null) throw new AppError('no-page', `of student ${studentId}`);
    if (shareLinkId === null) return ctx.redirect(`/s/${key}`);
    const person = await studentPages.person(studentId);
    const { id } = await shareLinks.get(shareLinkId);
    const [pass] = await studentPages.passes(person!, [id]);
    if (scores && isOfSite(site, scores.lineItem)) {
      const { gives, lineItem } = scores;
      const key = { siteId: site.id, lineItem, sub: launch.person.sub };
      await siteScores.opened(key, { shareLinkId: id, studentId, gives });
      // What they did elsewhere before counts here, too.
      await scoreGiver.changed(id, studentId);
    }
    return ctx.redirect(`/w/${pass}`);
  };

  /** Films that are handed out to a class, one line each. */
  const choicesOf = async (classId: string) => {
    const all = await inClass(parts, classId);
    const seen = new Map(all.map((one): [string, InUnit] => [one.shareLink.id, one]));
    return [...seen.values()].map(({ shareLink, title, unit }) => ({
      ...{ shareLinkId: shareLink.id, title, unit, filmUs: shareLink.film_us },
    }));
  };

  const interactionsOf = async (shareLinkId: string) => {
    const { film_id } = await shareLinks.get(shareLinkId);
    return (await wordsFor(parts, await parts.films.get(film_id))).interactions;
  };

  const choose = async (
    ctx: Context,
    site: CourseSite,
    launch: Launch,
    { returnTo, data, takesScores }: Extract<Launch['does'], { is: 'choose' }>,
  ) => {
    if (!launch.person.isTeacher) throw new AppError('not-for-you', 'choosing films');
    const { classId } = await classOf(parts, site, launch);
    const { name } = await parts.classes.view(classId);
    const { deployment } = launch;
    const until = Date.now() + CHOOSING_MS;
    const ticket = { site: site.id, classId, returnTo, deployment, data, until };
    ctx.type = 'html';
    const films = await choicesOf(classId);
    ctx.body = choosePage(name, films, takesScores, choices.sealed(JSON.stringify(ticket)));
  };

  router.post(
    TOOL_PATHS.launch,
    form,
    shown(async (ctx) => {
      const told = answerSchema.parse((ctx.request as { body?: unknown }).body);
      const { id_token: token, state } = told;
      // Another site’s page could have asked for a secret of its own, and send it along with somebody.
      const secret = isFromOwnPage(parts.config.front, ctx) ? told.secret : undefined;
      const begun = await launches.begun(state);
      const { site, again } = begun;
      const cookie = cookieOf(ctx, begun);
      const presented = [ctx.cookies.get(cookie), secret];
      if (!isBound(begun, presented)) {
        const storage = storageOf(begun);
        const page =
          storage && secret === undefined
            ? keptPage(storage, { id_token: token, state }, textFor(ctx))
            : again && ownWindowPage(again, textFor(ctx));
        if (page) {
          // So that browsers that tell nothing else say whose page sends what comes next.
          ctx.set('Referrer-Policy', 'same-origin');
          ctx.type = 'html';
          ctx.body = page;
          return;
        }
      }
      const launch = await launches.end(token, begun, presented);
      setFrameCookie(ctx, cookie, null, 0);
      if (launch.does.is === 'choose') await choose(ctx, site, launch, launch.does);
      else await open(ctx, site, launch, launch.does);
    }),
  );

  router.post(
    '/lti/choose',
    form,
    shown(async (ctx) => {
      const chosen = choiceSchema.parse((ctx.request as { body?: unknown }).body);
      const opened = choices.opened(chosen.ticket);
      if (opened === null) throw new AppError('launch-forged', 'its ticket is none of ours');
      const ticket = ticketSchema.parse(JSON.parse(opened));
      if (ticket.until < Date.now()) throw new AppError('launch-over', 'chosen too late');
      const site = await sites.get(ticket.site);
      const film = (await choicesOf(ticket.classId)).find(
        ({ shareLinkId }) => shareLinkId === chosen.share_link,
      );
      if (!film) throw new AppError('not-found', 'a film that was chosen');
      const address = new URL(TOOL_PATHS.launch, originFor(ctx));
      address.searchParams.set(SHARE_LINK, film.shareLinkId);
      const scores =
        chosen.gives === ''
          ? null
          : scoresFor(chosen.gives, await interactionsOf(film.shareLinkId));
      if (scores) address.searchParams.set(GIVES, scores.gives);
      const signed = await toolKeys.signed(
        chosenClaims({ ...film, address: address.href, scores }, ticket),
        site.clientId,
        site.issuer,
      );
      // Its form goes to the site, and nowhere else.
      const policy = ctx.response.get('Content-Security-Policy');
      const target = new URL(ticket.returnTo).origin;
      ctx.set(
        'Content-Security-Policy',
        policy.replace("form-action 'self'", `form-action ${target}`),
      );
      ctx.type = 'html';
      ctx.body = sendPage(ticket.returnTo, signed, film.title);
    }),
  );

  const ticketOf = (ctx: Context) => String(ctx['params'].ticket);
  router.get(
    `${TOOL_PATHS.register}/:ticket`,
    shown(async (ctx) => {
      const { issuer } = await registrations.about(
        ticketOf(ctx),
        joiningSchema.parse(ctx.query),
        originFor(ctx),
      );
      ctx.type = 'html';
      ctx.body = joinPage(issuer, ctx.querystring);
    }),
  );
  router.post(
    `${TOOL_PATHS.register}/:ticket`,
    shown(async (ctx) => {
      const joining = joiningSchema.parse(ctx.query);
      const { issuer } = await registrations.join(ticketOf(ctx), joining, originFor(ctx));
      ctx.type = 'html';
      ctx.body = joinedPage(issuer);
    }),
  );
  router.get('/lti/joined.js', (ctx) => {
    ctx.type = 'text/javascript';
    ctx.body = JOINED_SCRIPT;
  });

  router.get('/lti/storage.js', (ctx) => {
    ctx.type = 'text/javascript';
    ctx.body = STORAGE_SCRIPT;
  });

  router.get('/lti/send.js', (ctx) => {
    ctx.type = 'text/javascript';
    ctx.body = SEND_SCRIPT;
  });

  router.get(TOOL_PATHS.keys, async (ctx) => {
    ctx.set('Cache-Control', 'public, max-age=300');
    ctx.body = await toolKeys.shown();
  });
};
