import Router from '@koa/router';
import Koa from 'koa';
import { koaBody } from 'koa-body';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { SUBMISSION_UPLOADS_PATH } from '@under-chalk/core/contract/watch-submissions';
import { isGone } from './error-facts';
import type { Parts, State } from './http/context';
import { fairShare } from './http/fair-share';
import { problems } from './http/problems';
import { requestLog } from './http/request-log';
import { routesOn } from './http/route';
import { callerOf, headers, LTI_PATH, ownOriginOnly, sessions } from './http/security';
import { staticApp } from './http/static-app';
import { doorOf } from './http/who';
import { mailRoutes } from './routes/mail';
import { answersRoutes } from './routes/answers';
import { watchedRoutes } from './routes/watched';
import { studentPageRoutes } from './routes/student-pages';
import { classRoutes } from './routes/classes';
import { courseSiteRoutes } from './routes/course-sites';
import { ltiRoutes } from './routes/lti';
import { storageRoutes } from './routes/storage';
import { binRoutes } from './routes/bin';
import { filmRoutes } from './routes/films';
import { submissionRoutes } from './routes/submissions';
import { submissionUploadRoutes } from './routes/submission-uploads';
import { shareLinkRoutes } from './routes/share-links';
import { lessonRoutes } from './routes/lessons';
import { metaRoutes } from './routes/meta';
import { layoutRoutes } from './routes/layouts';
import { lessonArchiveRoutes } from './routes/lesson-archives';
import { savedStyleRoutes } from './routes/styles';
import { destinationRoutes } from './routes/destinations';
import { materialRoutes } from './routes/materials';
import { sessionRoutes } from './routes/session';
import { noteRoutes } from './routes/notes';
import { takeRoutes } from './routes/takes';
import { uploadRoutes } from './routes/uploads';
import { watchPageRoute } from './routes/watch-page';
import { streamRoutes } from './routes/stream';
import { watchRoutes } from './routes/watch';
import { wordsRoutes } from './routes/words';

/** Where a student writes more than an answer. */
const SUBMISSION = /^\/api\/watch\/[^/]+\/submission$/;

/** The web application: what every request goes through, in order. */
export const createApp = (parts: Parts): Koa => {
  const app = new Koa();
  const router = new Router();
  const door = doorOf(parts);
  const on = routesOn(router, door);
  metaRoutes(on, router);
  sessionRoutes(on, parts);
  lessonRoutes(on, parts);
  destinationRoutes(on, parts);
  layoutRoutes(on, parts);
  savedStyleRoutes(on, parts);
  lessonArchiveRoutes(on, parts);
  takeRoutes(on, parts);
  materialRoutes(on, parts);
  noteRoutes(on, parts);
  wordsRoutes(on, parts);
  uploadRoutes(router, door, parts);
  filmRoutes(on, parts);
  shareLinkRoutes(on, parts);
  watchRoutes(on, parts);
  streamRoutes(on, parts);
  watchPageRoute(router, door, parts);
  binRoutes(on, parts);
  storageRoutes(on, parts);
  classRoutes(on, parts);
  studentPageRoutes(on, parts);
  mailRoutes(on, parts);
  watchedRoutes(on, parts);
  answersRoutes(on, parts);
  courseSiteRoutes(on, parts);
  ltiRoutes(router, parts);
  submissionRoutes(on, parts);
  submissionUploadRoutes(router, parts);

  const bodyOf = (jsonLimit: string) =>
    koaBody({ multipart: false, urlencoded: false, text: false, jsonLimit });
  // What is open to strangers takes no more than a passphrase.
  const [body, strangersBody, submissionBody] = [bodyOf('8mb'), bodyOf('4kb'), bodyOf('24kb')];
  app.use(requestLog(parts.log));
  app.use(headers(parts.config.front));
  app.use(problems());
  app.use(ownOriginOnly(parts.config.front));
  app.use(sessions(parts.accounts, parts.config.demo));
  // What strangers send; segments and the bytes of recordings are waited for in other ways.
  app.use(
    fairShare((ctx) => {
      const isSent = ctx.method === 'POST' && !ctx.path.startsWith(SUBMISSION_UPLOADS_PATH);
      return isSent && !(ctx.state as State).teacher ? callerOf(ctx, parts.config.front) : null;
    }),
  );
  // The bytes of uploads are read by the tus server itself.
  app.use((ctx, next) => {
    // Forms of course sites are read where they are expected.
    if ([UPLOADS_PATH, SUBMISSION_UPLOADS_PATH, LTI_PATH].some((path) => ctx.path.startsWith(path)))
      return next();
    if ((ctx.state as State).teacher) return body(ctx, next);
    return (SUBMISSION.test(ctx.path) ? submissionBody : strangersBody)(ctx, next);
  });
  app.use(router.routes());
  if (parts.config.appFolder) app.use(staticApp(parts.config.appFolder));
  app.on('error', (error: unknown) => {
    // A viewer that closes the page midway is no event.
    if (!isGone(error)) parts.log.error('answering', error);
  });
  return app;
};
