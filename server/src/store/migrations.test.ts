import type { Decisions } from '@under-chalk/core/edit/decisions';
import { placedOf } from '@under-chalk/core/lesson/placement';
import knex from 'knex';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import OLDER from '../testing/older-lists.json';
import { startTestServer, type TestServer } from '../testing/test-server';
import { migrationSource } from './migrations';

jest.setTimeout(30_000);

/** A database as version 0.1 left it: the demo’s lessons, and an evening of undoing and redoing. */
let home: string;
let server: TestServer;
beforeAll(async () => {
  home = await mkdtemp(join(tmpdir(), 'under-chalk-older-'));
  const older = knex({
    client: 'better-sqlite3',
    connection: { filename: join(home, 'under-chalk.sqlite') },
    useNullAsDefault: true,
    migrations: {
      migrationSource: {
        ...migrationSource,
        getMigrations: async () =>
          (await migrationSource.getMigrations([])).filter((name) => name < '005'),
      },
    },
  });
  try {
    await older.migrate.latest();
    for (const [at, { entries }] of OLDER.entries()) {
      const time = new Date(at * 1000).toISOString();
      const id = `lesson-${at + 1}`;
      await older('lessons').insert({ id, created_at: time, updated_at: time });
      await older('edits').insert(
        entries.map((entry, index) => ({
          lesson_id: id,
          revision: index + 1,
          entry: JSON.stringify(entry),
          at: time,
        })),
      );
    }
  } finally {
    await older.destroy();
  }
  server = await startTestServer({ home });
});
afterAll(() => server.remove());

const view = async (id: string) => (await server.ask('GET', `/api/lessons/${id}`)).json;

it.each(OLDER.map((list, at) => [`lesson-${at + 1}`, list] as const))(
  '%s comes to what it came to before, at the same revision',
  async (id, { entries, comesTo, canUndo, canRedo }) => {
    const { lesson, steps, unknown } = await view(id);
    const { placements, leftOut, trims, ...now } = lesson.decisions as Decisions;
    const { placed, ...then } = comesTo;
    expect(now).toEqual(then);
    expect(
      placedOf({ placements, leftOut, trims }).map(({ takeId, startUs, endUs }) => ({
        takeId,
        startUs,
        endUs,
      })),
    ).toEqual(placed);
    expect([lesson.revision, unknown]).toEqual([entries.length, 0]);
    expect([steps.undo.length > 0, steps.redo.length > 0]).toEqual([canUndo, canRedo]);
  },
);

it('goes on from there: what was done then can be taken back, and brought back', async () => {
  const id = `lesson-${OLDER.length}`;
  const before = await view(id);
  const act = async (name: 'undo' | 'redo') => {
    const now = await view(id);
    const { entries } = now.steps[name].at(-1);
    await server.ask('POST', `/api/lessons/${id}/edits`, {
      baseRevision: now.lesson.revision,
      entries: [{ id: `new-${now.lesson.revision}`, by: 'teacher', edit: { do: name, entries } }],
    });
  };
  for (let times = 0; times < 3; times++) await act('undo');
  expect((await view(id)).lesson.decisions).not.toEqual(before.lesson.decisions);
  for (let times = 0; times < 3; times++) await act('redo');
  expect((await view(id)).lesson.decisions).toEqual(before.lesson.decisions);
});

it('lists every lesson, each with its title', async () => {
  const rows: { title: string }[] = (await server.ask('GET', '/api/lessons')).json;
  expect(rows.map(({ title }) => title).sort()).toEqual(
    OLDER.map(({ comesTo }) => comesTo.plan.title).sort(),
  );
});
