import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ENDPOINTS } from './api';
import type { Endpoint } from './endpoint';

/** `docs/api.md` is made from the contract. `npm run docs:api` writes it; without that, this test says when it is out of date. */
const FILE = join(__dirname, '..', '..', '..', 'docs', 'api.md');

const CALLERS: readonly (readonly [string, string, Endpoint['from']])[] = [
  ['Teacher', 'Signed in by passphrase; the session is a cookie.', undefined],
  ['Student with a link', '`:token` is the link’s, or that of a film on a page.', 'student'],
  ['Student or class page', '`:key` is the page’s.', 'person'],
  ['Anyone', 'No credentials.', 'anyone'],
];

const row = ([name, { method, path, summary }]: readonly [string, Endpoint]): string =>
  `| \`${name}\` | \`${method.toUpperCase()} ${path}\` | ${summary.replaceAll('|', '\\|').replaceAll(/\s+/g, ' ')} |`;

const page = (): string => {
  const all: readonly (readonly [string, Endpoint])[] = Object.entries(ENDPOINTS);
  const parts = CALLERS.map(([title, how, from]) => {
    const rows = all
      .filter(([, endpoint]) => endpoint.from === from)
      .sort(([, a], [, b]) =>
        a.path < b.path ? -1 : a.path > b.path ? 1 : a.method < b.method ? -1 : 1,
      )
      .map(row);
    return `## ${title}\n\n${how}\n\n| endpoint | request | what it does |\n|---|---|---|\n${rows.join('\n')}\n`;
  });
  return `# API by caller

Made from \`core/src/contract\` by \`npm run docs:api\`. A running server describes bodies and answers at \`GET /api/openapi.json\`. Every
error has the body \`{code, message, hint}\` (\`core/src/errors/errors.ts\`).

Besides these there are \`GET /api/health\`, uploads by tus 1.0 (\`/api/uploads\` for recordings and materials, \`/api/submission-uploads\`
for submissions), and the pages for course sites under \`/lti/…\` (\`server/src/routes/lti.ts\`).

${parts.join('\n')}`;
};

it('docs/api.md says what the contract says', () => {
  if (process.env['UPDATE_DOCS']) writeFileSync(FILE, page());
  expect(readFileSync(FILE, 'utf8')).toBe(page());
});
