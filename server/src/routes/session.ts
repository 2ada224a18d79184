import type Router from '@koa/router';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { Session } from '@under-chalk/core/contract/api';
import type { Parts } from '../http/context';
import { route } from '../http/route';
import { setSessionCookie, TryLimit } from '../http/security';
import { sameSecret } from '../store/account-store';

const FIVE_MINUTES = 300_000;

export const sessionRoutes = (router: Router, { accounts, config, setUpCode }: Parts): void => {
  const tries = new TryLimit(5, FIVE_MINUTES);
  const sessionOf = async (signedIn: boolean): Promise<Session> => ({
    signedIn,
    setUp: await accounts.isSetUp(),
    demo: config.demo,
    teacherName: signedIn ? await accounts.teacherName() : '',
  });

  route(router, 'session', ({ ctx }) => sessionOf(ctx.state.signedIn));

  route(router, 'signIn', async ({ ctx, body }) => {
    const caller = ctx.ip;
    tries.check(caller);
    if (!(await accounts.isPassphrase(body.passphrase))) {
      tries.failed(caller);
      throw new TellableError('wrong-passphrase');
    }
    tries.forget(caller);
    setSessionCookie(ctx, await accounts.newSession());
    return sessionOf(true);
  });

  route(router, 'signOut', async ({ ctx }) => {
    if (ctx.state.token) await accounts.endSession(ctx.state.token);
    setSessionCookie(ctx, null);
    return { ok: true as const };
  });

  route(router, 'setUp', async ({ ctx, body }) => {
    const caller = ctx.ip;
    tries.check(caller);
    if (!sameSecret(body.code, setUpCode)) {
      tries.failed(caller);
      throw new TellableError('wrong-code');
    }
    if (!(await accounts.setUp(body.teacherName, body.passphrase))) {
      throw new TellableError('already-set-up');
    }
    setSessionCookie(ctx, await accounts.newSession());
    return sessionOf(true);
  });
};
