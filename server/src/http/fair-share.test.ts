import { once } from 'node:events';
import Koa from 'koa';
import type { AddressInfo } from 'node:net';
import { fairShare } from './fair-share';
import { problems } from './problems';
import { keptIn } from '../testing/test-server';

it('refuses what one address sends beyond its share, keeps nobody else waiting, and forgets when it is done', async () => {
  let letGo = () => {};
  let worked = 0;
  const held = new Promise<void>((resolve) => (letGo = resolve));
  const app = new Koa();
  app.use((ctx, next) => {
    ctx.state['log'] = keptIn([]);
    return next();
  });
  app.use(problems());
  app.use(fairShare((ctx) => ctx.get('X-From') || null, 3));
  app.use(async (ctx) => {
    worked++;
    await held;
    ctx.body = 'done';
  });
  const server = app.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const ask = (from: string) =>
    fetch(url, { method: 'POST', headers: { 'X-From': from } }).then((answer) => answer);
  const first = [1, 2, 3].map(() => ask('one'));
  while (worked < 3) await new Promise((resolve) => setTimeout(resolve, 5));
  const refused = await Promise.all(Array.from({ length: 20 }, () => ask('one')));
  expect(refused.map(({ status }) => status)).toEqual(Array(20).fill(429));
  expect(refused[0]!.headers.get('Retry-After')).toBe('5');
  expect(worked).toBe(3);
  const others = [ask('another'), ask('')];
  while (worked < 5) await new Promise((resolve) => setTimeout(resolve, 5));
  letGo();
  const statuses = (await Promise.all([...first, ...others])).map(({ status }) => status);
  expect(statuses).toEqual([200, 200, 200, 200, 200]);
  expect((await ask('one')).status).toBe(200);
  server.close();
  server.closeAllConnections();
});
