import { AppError } from '@under-chalk/core/errors/errors';
import type { Session } from '@under-chalk/core/contract/session';
import type { Context } from 'koa';
import type { Parts } from '../http/context';
import { Guesses, type Guesser } from '../http/guesses';
import type { On } from '../http/route';
import { callerOf, knownMark, setKnownCookie, setSessionCookie } from '../http/security';
import { sameSecret } from '../store/account-store';

export const sessionRoutes = (on: On, { accounts, config, setUpCode }: Parts): void => {
  const guesses = new Guesses();
  const guesserOf = async (ctx: Context): Promise<Guesser> => {
    const mark = knownMark(ctx);
    const known = mark !== null && (await accounts.isMark(mark));
    return { address: callerOf(ctx, config.front), knownMark: known ? mark : null };
  };
  const signIn = async (ctx: Context) => {
    setSessionCookie(ctx, await accounts.newSession(), config.front);
    setKnownCookie(ctx, await accounts.newMark(), config.front);
  };
  const sessionOf = async (signedIn: boolean): Promise<Session> => ({
    signedIn,
    setUp: await accounts.isSetUp(),
    demo: config.demo,
    teacherName: signedIn ? await accounts.teacherName() : '',
  });

  on('session', ({ who }) => sessionOf(who.is === 'teacher'));

  on('signIn', async ({ ctx, body }) => {
    const right = () => accounts.isPassphrase(body.passphrase);
    await guesses.check(await guesserOf(ctx), right, 'wrong-passphrase');
    await signIn(ctx);
    return sessionOf(true);
  });

  on('signOut', async ({ who, ctx }) => {
    if (who.is === 'teacher' && who.session) await accounts.endSession(who.session);
    setSessionCookie(ctx, null, config.front);
    return { ok: true as const };
  });

  on('setTeacher', async ({ body }) => {
    await accounts.setTeacherName(body.teacherName);
    return sessionOf(true);
  });

  on('setPassphrase', async ({ who, ctx, body }) => {
    const right = () => accounts.isPassphrase(body.now);
    await guesses.check(await guesserOf(ctx), right, 'wrong-passphrase');
    await accounts.setPassphrase(body.next, who.session);
    return { ok: true as const };
  });

  on('setUp', async ({ ctx, body }) => {
    const right = () => Promise.resolve(sameSecret(body.code, setUpCode));
    await guesses.check(await guesserOf(ctx), right, 'wrong-code');
    if (!(await accounts.setUp(body.teacherName, body.passphrase))) {
      throw new AppError('already-set-up');
    }
    await signIn(ctx);
    return sessionOf(true);
  });
};
