import Router from '@koa/router';
import Koa from 'koa';
import { koaBody } from 'koa-body';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import type { Parts, State } from './http/context';
import { problems } from './http/problems';
import { headers, ownOriginOnly, sessions } from './http/security';
import { staticApp } from './http/static-app';
import { filmRoutes } from './routes/films';
import { handOutRoutes } from './routes/hand-outs';
import { lessonRoutes } from './routes/lessons';
import { metaRoutes } from './routes/meta';
import { placeRoutes } from './routes/places';
import { sessionRoutes } from './routes/session';
import { takeRoutes } from './routes/takes';
import { uploadRoutes } from './routes/uploads';
import { watchRoutes } from './routes/watch';

/** The web application: what every request goes through, in order. */
export const createApp = (parts: Parts): Koa => {
  const app = new Koa();
  const router = new Router();
  metaRoutes(router);
  sessionRoutes(router, parts);
  lessonRoutes(router, parts);
  placeRoutes(router, parts);
  takeRoutes(router, parts);
  uploadRoutes(router, parts);
  filmRoutes(router, parts);
  handOutRoutes(router, parts);
  watchRoutes(router, parts);

  const bodyOf = (jsonLimit: string) =>
    koaBody({ multipart: false, urlencoded: false, text: false, jsonLimit });
  // What is open to strangers takes no more than a passphrase.
  const [body, strangersBody] = [bodyOf('1mb'), bodyOf('4kb')];
  app.use(headers(parts.config.front));
  app.use(problems(parts.log));
  app.use(ownOriginOnly(parts.config.front));
  app.use(sessions(parts.accounts, parts.config.demo));
  // The bytes of uploads are read by the tus server itself.
  app.use((ctx, next) => {
    if (ctx.path.startsWith(UPLOADS_PATH)) return next();
    return ((ctx.state as State).signedIn ? body : strangersBody)(ctx, next);
  });
  app.use(router.routes());
  if (parts.config.appFolder) app.use(staticApp(parts.config.appFolder));
  app.on('error', (error: NodeJS.ErrnoException) => {
    // A viewer that closes the page midway is no event.
    if (error.code !== 'EPIPE' && error.code !== 'ECONNRESET') parts.log('answering', error);
  });
  return app;
};
