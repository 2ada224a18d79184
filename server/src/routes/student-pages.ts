import { atomFeed, jsonFeed, type Feed } from '@under-chalk/core/class/feed';
import { pathTo } from '@under-chalk/core/contract/api';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Parts } from '../http/context';
import { Guesses } from '../http/guesses';
import { rememberPin } from '../http/pin-given';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import { openFilms, pageContentFor } from '../jobs/page-content';
import { sameSecret } from '../store/account-store';

/** Students' own pages, and those of classes: for the teacher, and for the students. */
export const studentPageRoutes = (on: On, parts: Parts): void => {
  const { studentPages, classPages, tokens, config } = parts;
  const guesses = new Guesses();

  on('studentPages', ({ params }) => studentPages.pagesOf(params.classId));

  on('studentPage', ({ params }) => studentPages.page(params.studentId));

  on('renewPage', ({ params }) =>
    studentPages.renew(params.studentId).finally(() => tokens.forget()),
  );

  on('openPage', ({ params, body }) =>
    studentPages.setOpen(params.studentId, body.open).finally(() => tokens.forget()),
  );

  on('askPin', ({ params, body }) =>
    studentPages.setNumber(params.studentId, body.asked).finally(() => tokens.forget()),
  );

  on('classPage', ({ params }) => classPages.page(params.classId));

  on('renewClassPage', ({ params }) =>
    classPages.renew(params.classId).finally(() => tokens.forget()),
  );

  on('openClassPage', ({ params, body }) =>
    classPages.setOpen(params.classId, body.open).finally(() => tokens.forget()),
  );

  on('pageContent', async ({ who, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    return pageContentFor(parts, who.visitor);
  });

  on('pageContentFeed', async ({ who, params: { key, form }, ctx }) => {
    const { name, teacherName, ...pageContent } = await pageContentFor(parts, who.visitor);
    const origin = originOf(config.front, ctx);
    const feed: Feed = {
      ...{ title: name, author: teacherName, pageAddress: `${origin}/s/${key}` },
      feedAddress: origin + pathTo('pageContentFeed', { key, form }),
      films: openFilms(pageContent).map(({ token, title, filmUs, upAt }) => ({
        ...{ title: title || 'Untitled film', filmUs, upAt },
        address: `${origin}/w/${token}`,
        coverAddress: origin + pathTo('watchCover', { token }),
      })),
    };
    ctx.set('Cache-Control', 'private, max-age=60');
    if (form === 'json') {
      ctx.type = 'application/feed+json';
      ctx.body = JSON.stringify(jsonFeed(feed));
    } else {
      ctx.type = 'application/atom+xml';
      ctx.body = atomFeed(feed);
    }
  });

  on('givePin', async ({ params, body, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    const person = await studentPages.personWith(params.key);
    if (!person) throw new AppError('no-page');
    const { pin } = person;
    if (pin) {
      // One line a page, whoever guesses: a million numbers are too few for many callers to share.
      await guesses.check(
        { address: `page ${person.pageHash}`, knownMark: null },
        () => Promise.resolve(pin.digits !== null && sameSecret(body.pin, pin.digits)),
        'wrong-pin',
      );
      rememberPin(ctx, person, config.front);
    }
    return pageContentFor(parts, person);
  });
};
