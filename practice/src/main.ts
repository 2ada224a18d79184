/** The practice course site, started by itself: `practice-site <port> <address of Under Chalk> <file that it is kept in>`. */
import { startPracticeSite } from './site';

const [port = '4760', toolOrigin = 'http://127.0.0.1:4750', keptIn] = process.argv.slice(2);
const { url } = await startPracticeSite({
  ...{ port: Number(port), toolOrigin },
  ...(keptIn ? { keptIn } : {}),
});
console.log(`The practice course site: ${url}/`);
