import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './app';
import { readConfig } from './config';
import { inThread } from './jobs/film-maker';
import { openParts } from './open-parts';

const here = dirname(fileURLToPath(import.meta.url));
const appFolder = join(here, '..', '..', 'app', 'dist');
const config = readConfig(process.env, existsSync(appFolder) ? appFolder : null);

const log = (message: string, error?: unknown) => {
  const told = error instanceof Error ? (error.stack ?? error.message) : (error ?? '');
  console.error(`[${new Date().toISOString()}] ${message}`, told);
};

const { parts, close } = await openParts(
  config,
  inThread(join(here, 'film-thread.js')),
  join(here, 'title-font.ttf'),
  log,
);
if (config.demo && !(await parts.accounts.isSetUp())) {
  // Nobody knows this passphrase: the demo is opened by being on this machine.
  await parts.accounts.setUp('Ottilie Marsh', parts.setUpCode + parts.setUpCode);
}
const server = createApp(parts).listen(config.port, config.host);
server.once('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${config.port} is in use. Close what uses it, or choose another: PORT=4751 npm start`
      : error.message,
  );
  process.exit(1);
});
server.once('listening', () => {
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : config.port;
  const host = config.host === '0.0.0.0' || config.host === '127.0.0.1' ? 'localhost' : config.host;
  console.log(`Under Chalk is at http://${host}:${port}/`);
  void parts.accounts.isSetUp().then((setUp) => {
    if (!setUp) {
      console.log(
        `First start: set your passphrase at http://${host}:${port}/sign-in?code=${parts.setUpCode}`,
      );
    }
  });
});

const stop = () => {
  server.close();
  server.closeAllConnections();
  void close().finally(() => process.exit(0));
};
process.once('SIGINT', stop);
process.once('SIGTERM', stop);
