/**
 * A teacher of many years: the list of two thousand lessons, a student's page with three hundred films, and who may watch, tried over
 * HTTP. The bound of an answer is one of as many bytes by a server that does nothing else, in the same run.
 */
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { PageContent, PageFilm, StudentPage } from '@under-chalk/core/contract/student-pages';
import { openBrowser, PHONE } from '@under-chalk/e2e/browser';
import { RealServer } from '@under-chalk/e2e/server';
import knex from 'knex';
import { mkdir, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';

const LESSONS = 2_000;
const FILMS = 300;
const UNITS = 30;
const RUNS = 40;
const MOST_MS = 100;
const LEAST_CASES = 400;
/** Students who watch one film at once, for how long, and how many notes a second must be taken. */
const [WATCHERS, WATCHED_MS, LEAST_EVENTS] = [100, 10_000, 500];
const [WATCHED_FILM, WATCHED_VERSION] = [20, 'a'.repeat(40)];
const [CLASS, OTHER] = ['class-coastal', 'class-knots'];
const NAMES = ['Wen', 'Ines', 'Bram', 'Odo'];

const quantile = (took: readonly number[], share: number): number =>
  [...took].sort((a, b) => a - b)[Math.floor(took.length * share)]!;

/** How long answers take, ms. */
const timed = async (url: string): Promise<{ took: number[]; bytes: Buffer }> => {
  const took: number[] = [];
  let bytes = Buffer.alloc(0);
  for (let run = 0; run < RUNS + 3; run++) {
    const began = performance.now();
    const answer = await fetch(url);
    bytes = Buffer.from(await answer.arrayBuffer());
    if (!answer.ok) throw new Error(`${url}: ${answer.status} ${bytes.toString().slice(0, 200)}`);
    if (run >= 3) took.push(performance.now() - began);
  }
  return { took, bytes };
};

/** The same for a server that sends the same bytes, and does nothing else. */
const floorOf = async (bytes: Buffer): Promise<number[]> => {
  const head = `HTTP/1.1 200 OK\r\nContent-Length: ${bytes.length}\r\nConnection: close\r\n\r\n`;
  const plain = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.once('data', () => socket.end(Buffer.concat([Buffer.from(head), bytes])));
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => plain.once('listening', resolve));
  const { took } = await timed(`http://127.0.0.1:${(plain.address() as AddressInfo).port}/`);
  plain.close();
  return took;
};

// That there are no covers of films that aren't there is no news.
const server = await RealServer.start({ env: { UNDER_CHALK_LOG: 'silent' } });
const unit = (index: number) => `Week ${(index % UNITS) + 1}`;
const units = Array.from({ length: UNITS }, (_, index) => ({
  ...{ id: `unit-${index}-of-class`, name: unit(index) },
}));
for (const [id, name] of [
  [CLASS, 'Coastal navigation'],
  [OTHER, 'Knots'],
])
  await server.ask('POST', '/api/classes', { id, name, units });
const enrol = (id: string, ...names: string[]) =>
  server.ask('POST', `/api/classes/${id}/students`, {
    students: names.map((name) => ({
      name,
      address: `${name.replace(' ', '-')}@lantern-quay.example`,
    })),
  });
const crowd = Array.from({ length: WATCHERS }, (_, index) => `Student ${index}`);
await enrol(CLASS, 'Wen', 'Ines', ...crowd);
await enrol(OTHER, 'Wen', 'Bram', 'Odo');
console.log(`Making ${LESSONS} lessons…`);
const lessonId = (index: number) => `lesson-number-${index}`;
for (let index = 0; index < LESSONS; index++) {
  await server.ask('POST', '/api/lessons', {
    ...{ id: lessonId(index), title: `Lesson ${index} on tide heights` },
  });
  await server.ask('POST', `/api/lessons/${lessonId(index)}/edits`, {
    baseRevision: 1,
    entries: [
      {
        ...{ id: `entry-of-${index}`, by: 'teacher' },
        edit: { do: 'plan', set: { className: 'Coastal navigation', unit: unit(index) } },
      },
    ],
  });
}
// Films as they would be; only nothing of them is made, for nothing of it is asked for here.
await server.kill();
const db = knex({
  client: 'better-sqlite3',
  connection: { filename: join(server.home, 'under-chalk.sqlite') },
  useNullAsDefault: true,
});
await db.transaction(async (trx) => {
  const put = (table: string, row: object) => trx(table).insert(row);
  for (let index = 0; index < FILMS; index++) {
    const [film_id, share_link_id] = [`film-number-${index}`, `share-link-number-${index}`];
    const created_at = new Date(Date.UTC(2026, 0, 1) + index * 3_600_000).toISOString();
    const title = `Lesson ${index} on tide heights`;
    await put('films', {
      ...{ id: film_id, lesson_id: lessonId(index), revision: 2, size: '720p', state: 'done' },
      ...{ bytes: 1, film_us: 60_000_000, file_name: 'film.mp4', created_at },
      manifest_id: index === WATCHED_FILM ? WATCHED_VERSION : '',
      words: JSON.stringify({ title, description: '', filmUs: 60_000_000, chapters: [] }),
    });
    await put('share_links', {
      ...{ id: share_link_id, lesson_id: lessonId(index), film_id, created_at },
      ...{ token_hash: `none-${index}`, token_sealed: 'none' },
    });
    await put('grants', {
      id: `grant-number-${index}`,
      share_link_id,
      grantee: 'class',
      grantee_id: CLASS,
    });
  }
});
await db.destroy();
await server.up();

const ids = new Map(
  (
    await Promise.all(
      [CLASS, OTHER].map((id) => server.ask<ClassView>('GET', `/api/classes/${id}`)),
    )
  ).flatMap(({ students }) => students.map(({ id, name }) => [name, id] as const)),
);
const keys = new Map<string, string>();
for (const name of [...NAMES, ...crowd]) {
  const { key } = await server.ask<StudentPage>('POST', `/api/students/${ids.get(name)}/page`);
  keys.set(name, key!);
}

const list = await timed(`${server.url}/api/lessons`);
const pageContent = await timed(`${server.url}/api/page/${keys.get('Wen')}`);
const [listFloor, shelfFloor] = [await floorOf(list.bytes), await floorOf(pageContent.bytes)];

/** How long until the first of it is seen, ms: in a browser that has the page's code. */
const drawn = async (path: string, what: string): Promise<number> => {
  const { page, close } = await openBrowser({ viewport: PHONE });
  const took: number[] = [];
  for (let run = 0; run < 6; run++) {
    const began = Date.now();
    await page.goto(server.url + path, { waitUntil: 'commit' });
    await page.getByText(what).first().waitFor();
    if (run > 0) took.push(Date.now() - began);
  }
  await close();
  return quantile(took, 0.5);
};
const listDrawnMs = await drawn('/', 'on tide heights');
const shelfDrawnMs = await drawn(`/s/${keys.get('Wen')}`, 'on tide heights');

/** Who may watch what is for whom, said by hand. */
const GRANTS: readonly (readonly [grantee: object, allowed: readonly string[]])[] = [
  [{ is: 'anyone' }, NAMES],
  [{ is: 'class', classId: CLASS }, ['Wen', 'Ines']],
  [{ is: 'class', classId: OTHER }, ['Wen', 'Bram', 'Odo']],
  [{ is: 'student', studentId: ids.get('Ines') }, ['Ines']],
  [{ is: 'student', studentId: ids.get('Bram') }, ['Bram']],
];
const days = (count: number) => new Date(Date.now() + count * 86_400_000).toISOString();
const STATES: readonly (readonly [object, number])[] = [
  [{ availableFrom: null, availableUntil: null }, 200],
  [{ availableFrom: days(1), availableUntil: null }, 403],
  [{ availableFrom: null, availableUntil: days(-1) }, 410],
];
const films = ({ classes, own }: PageContent): PageFilm[] => [
  ...own,
  ...classes.flatMap(({ now, units: all }) =>
    [...(now ? [now] : []), ...all].flatMap((one) => one.films),
  ),
];
let [grantCases, grantFailures] = [0, 0];
for (let index = 0; index < 8; index++) {
  const path = `/api/share-links/share-link-number-${index}`;
  const letWatch = (grants: object[]) => server.ask('POST', `${path}/audience`, { grants });
  await letWatch([CLASS, OTHER].map((classId) => ({ grantee: { is: 'class', classId } })));
  const tokens = new Map<string, string>();
  for (const name of NAMES) {
    const title = `Lesson ${index} on tide heights`;
    const page = await server.ask<PageContent>('GET', `/api/page/${keys.get(name)}`);
    tokens.set(name, films(page).find((film) => film.title === title)!.token!);
  }
  for (const [grantee, allowed] of GRANTS) {
    await letWatch([{ grantee }]);
    for (const [times, expected] of STATES) {
      await server.ask('POST', `${path}/open`, times);
      for (const name of NAMES) {
        const { status } = await fetch(`${server.url}/api/watch/${tokens.get(name)}`);
        grantCases++;
        if (status !== (allowed.includes(name) ? expected : 403)) grantFailures++;
      }
    }
  }
}
/** What a crowd tells of what it watches, as fast as it is taken; the server is killed at once, and what it has is counted. */
const watchEvents = async (): Promise<{ perSecond: number; lost: number }> => {
  const title = `Lesson ${WATCHED_FILM} on tide heights`;
  const tokens: string[] = [];
  for (const name of crowd) {
    const page = await server.ask<PageContent>('GET', `/api/page/${keys.get(name)}`);
    tokens.push(films(page).find((film) => film.title === title)!.token!);
  }
  const before = performance.now();
  const until = before + WATCHED_MS;
  const taken = await Promise.all(
    tokens.map(async (token, at) => {
      let part = 0;
      while (performance.now() < until) {
        const second = part % 60;
        const { status } = await fetch(`${server.url}/api/watch/${token}/played`, {
          ...{ method: 'POST', headers: { 'Content-Type': 'application/json' } },
          body: JSON.stringify({
            ...{ version: WATCHED_VERSION, visit: `visit-of-student-${at}`, part: ++part },
            played: [[second, second + 1]],
          }),
        });
        if (status !== 200) throw new Error(`what is watched was answered ${status}`);
      }
      return part;
    }),
  );
  const tookS = (performance.now() - before) / 1_000;
  await server.kill();
  const kept = knex({
    client: 'better-sqlite3',
    connection: { filename: join(server.home, 'under-chalk.sqlite') },
    useNullAsDefault: true,
  });
  const rows: { seconds: string }[] = await kept('viewings').select('seconds');
  await kept.destroy();
  const all = taken.reduce((sum, one) => sum + one, 0);
  const counted = rows.reduce(
    (sum, { seconds }) => sum + [...seconds].reduce((times, one) => times + Number(one), 0),
    0,
  );
  return { perSecond: Math.round(all / tookS), lost: all - counted };
};
const events = await watchEvents();
await server.remove();

const round = (ms: number) => Math.round(ms * 10) / 10;
const result = {
  ...{ name: 'class', listMsP95: round(quantile(list.took, 0.95)) },
  ...{ shelfMsP95: round(quantile(pageContent.took, 0.95)), grantCases, grantFailures },
  ...{ watchEventsPerSecond: events.perSecond, watchEventsLost: events.lost },
  listFloor: round(quantile(list.took, 0.5) / quantile(listFloor, 0.5)),
  shelfFloor: round(quantile(pageContent.took, 0.5) / quantile(shelfFloor, 0.5)),
  ...{ listDrawnMs, shelfDrawnMs },
};
console.table([
  {
    what: `list of ${LESSONS} lessons, p95 ms`,
    is: result.listMsP95,
    most: MOST_MS,
    'times its floor': result.listFloor,
  },
  {
    what: `page of ${FILMS} films, p95 ms`,
    is: result.shelfMsP95,
    most: MOST_MS,
    'times its floor': result.shelfFloor,
  },
  { what: 'the list until it is seen, ms', is: listDrawnMs },
  { what: 'the page until it is seen, ms', is: shelfDrawnMs },
  { what: 'cases of who may watch', is: grantCases, least: LEAST_CASES },
  { what: 'of them decided wrongly', is: grantFailures, most: 0 },
  { what: 'notes of what is watched, a second', is: events.perSecond, least: LEAST_EVENTS },
  { what: 'of them lost by a killed server', is: events.lost, most: 0 },
]);
const results = join(process.env['UNDER_CHALK_ROOT'] ?? process.cwd(), 'bench/results');
await mkdir(results, { recursive: true });
await writeFile(join(results, 'class.json'), `${JSON.stringify(result)}\n`);
if (
  result.listMsP95 > MOST_MS ||
  result.shelfMsP95 > MOST_MS ||
  grantCases < LEAST_CASES ||
  grantFailures > 0 ||
  events.perSecond < LEAST_EVENTS ||
  events.lost > 0
)
  process.exitCode = 1;
