import { errorText, AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import { existsSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './app';
import { factsOf } from './error-facts';
import { readConfig, shippedIn } from './config';
import { inThread } from './jobs/in-thread';
import { openLog } from './log';
import { openParts } from './open-parts';
import { lockFolder } from './store/folder-lock';
import { openWorkingFolder } from './store/working-folder';

const here = dirname(fileURLToPath(import.meta.url));
const appFolder = join(here, '..', '..', 'app', 'dist');
const config = readConfig(process.env, existsSync(appFolder) ? appFolder : null);

const log = openLog(process.env['UNDER_CHALK_LOG']);

/** Ends with a sentence, and no stack, when it can't begin. */
const giveUp = (code: ErrorCode, detail: string): never => {
  const { message, hint } = errorText(code);
  console.error(`${message} (${detail})\n${hint}`);
  process.exit(1);
};

const whyNot = (error: unknown): ErrorCode => {
  if (error instanceof AppError) return error.code;
  if (isDiskFull(error)) return 'disk-full';
  const code = factsOf(error).code ?? '';
  const unwritable = ['EACCES', 'EPERM', 'EROFS', 'ENOTDIR', 'SQLITE_READONLY', 'SQLITE_CANTOPEN'];
  return unwritable.some((one) => code.startsWith(one)) ? 'folder-unwritable' : 'unexpected';
};

// What nobody waited for must not end a recording that goes on beside it.
process.on('unhandledRejection', (error) =>
  log.error('something failed that nobody waited for', error),
);

/** Answers while the rest is being opened: the port is taken before anything is begun. */
let answer: (request: IncomingMessage, response: ServerResponse) => void = (_request, response) => {
  response.writeHead(503, { 'Retry-After': '1' }).end();
};

/** Longer than a proxy or a browser keeps a connection that it may use again: else requests are reset that just begin. */
const KEEP_ALIVE_MS = 75_000;

const listen = (): Promise<Server> =>
  new Promise((resolve, reject) => {
    const server = createServer((request, response) => answer(request, response));
    server.keepAliveTimeout = KEEP_ALIVE_MS;
    server.once('error', reject);
    server.listen(config.port, config.host, () => {
      server.off('error', reject);
      server.on('error', (error) => log.error('the server', error));
      resolve(server);
    });
  });

const begin = async () => {
  const letGo = await lockFolder(config.folders.home);
  // A full disk keeps nobody from what is there already.
  await openWorkingFolder(config.folders.home).catch((error: unknown) =>
    log.warn('working files are made in the system’s folder', error),
  );
  const server = await listen().catch((error: NodeJS.ErrnoException) =>
    error.code === 'EADDRINUSE'
      ? giveUp('port-in-use', String(config.port))
      : Promise.reject(error),
  );
  const { parts, start, close } = await openParts(
    config,
    inThread(join(here, 'film-thread.js')),
    shippedIn(here),
    log,
  );
  if (config.demo && !(await parts.accounts.isSetUp())) {
    // Nobody knows this passphrase: the demo is opened by being on this machine.
    await parts.accounts.setUp('Ottilie Marsh', parts.setUpCode + parts.setUpCode);
  }
  await start();
  answer = createApp(parts).callback() as typeof answer;
  return { server, parts, close: () => close().finally(letGo) };
};

const { server, parts, close } = await begin().catch((error: unknown) => {
  const code = whyNot(error);
  if (code === 'unexpected') log.error('Under Chalk could not begin', error);
  return giveUp(code, config.folders.home);
});

const address = server.address();
const port = typeof address === 'object' && address ? address.port : config.port;
const host = config.host === '0.0.0.0' || config.host === '127.0.0.1' ? 'localhost' : config.host;
const origin = config.front.origin ?? `http://${host}:${port}`;
console.log(`Under Chalk is at ${origin}/`);
if (!(await parts.accounts.isSetUp())) {
  console.log(`First start: set your passphrase at ${origin}/sign-in?code=${parts.setUpCode}`);
}

/** However long a film takes to be broken off, a server told to stop stops. */
const STOP_MS = 8_000;
/** Requests that are being answered are finished, for so long. */
const FINISH_MS = 1_500;
const stop = () => {
  setTimeout(() => process.exit(0), STOP_MS).unref();
  const finished = new Promise((resolve) => server.close(resolve));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), FINISH_MS).unref();
  void finished.then(close).finally(() => process.exit(0));
};
process.once('SIGINT', stop);
process.once('SIGTERM', stop);
