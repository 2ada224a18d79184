import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { FIRST_LOOK, LEFT_AS_IT_IS } from '@under-chalk/core/pointer/look';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { FOUND_COVER } from '@under-chalk/core/lesson/cover';
import { NEW_FRAME } from '@under-chalk/core/lesson/frame';
import { placedOf } from '@under-chalk/core/lesson/placement';
import knex from 'knex';
import { mkdtemp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import OLDER from '../testing/older-lists.json';
import { startTestServer, type TestServer } from '../testing/test-server';
import { openSeal } from './link-seal';
import { FIRST_TEACHER, migrationsWith } from './migrations';

jest.setTimeout(120_000);

/** A database as version 0.1 left it: the demo’s lessons, and an evening of undoing and redoing. */
const WORDS = JSON.stringify({ title: 'Tides', description: '', filmUs: 7, chapters: [] });
const LINK = { lesson_id: 'lesson-1', film_id: 'film-older', created_at: '2026' };
const [GIVEN, TAKEN] = ['AbCdEfGhIjKlMnOpQrStUv', 'ZyXwVuTsRqPoNmLkJiHgFe'];

let home: string;
let server: TestServer;
beforeAll(async () => {
  home = await mkdtemp(join(tmpdir(), 'under-chalk-older-'));
  // An older version had no such key: it is made here as the newer one makes it.
  const source = migrationsWith(await openSeal(home));
  const older = knex({
    client: 'better-sqlite3',
    connection: { filename: join(home, 'under-chalk.sqlite') },
    useNullAsDefault: true,
    migrations: {
      migrationSource: {
        ...source,
        getMigrations: async () => (await source.getMigrations([])).filter((name) => name < '005'),
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
    await older('films').insert({
      ...{ id: 'film-older', lesson_id: 'lesson-1', revision: 1, size: '720p', state: 'done' },
      ...{ film_us: 7, file_name: 'x.mp4', created_at: '2026', words: WORDS },
    });
    await older('hand_outs').insert([
      { ...LINK, id: 'link-given', token: GIVEN },
      { ...LINK, id: 'link-taken', token: TAKEN, taken_back_at: '2026' },
    ]);
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
    const { placements, leftOut, trims, addedInk, pointer, screenPointer, inkChanges, ...rest } =
      lesson.decisions as Decisions;
    const {
      silenced,
      cleaned,
      soundLevels,
      spokenOver,
      cues,
      spoken,
      captionLook,
      underVoiceDb,
      unlevelled,
      dissolveUs,
      cameraLooks,
      cards,
      closeUps,
      cutaways,
      lines,
      speeds,
      watermark,
      cover,
      licence,
      audioDescriptions,
      moments,
      frame,
      ...now
    } = rest;
    // What could not be decided then.
    expect([addedInk, inkChanges, pointer]).toEqual([[], [], FIRST_LOOK]);
    expect(screenPointer).toEqual(LEFT_AS_IT_IS);
    expect(cards).toEqual({ opening: null, closing: null });
    expect([cameraLooks, dissolveUs, unlevelled, silenced, underVoiceDb]).toEqual([
      [],
      0,
      [],
      [],
      10,
    ]);
    expect([cleaned, spokenOver]).toEqual([[], []]);
    expect(soundLevels).toEqual({ voice: [], 'computer-sound': [] });
    expect([cues, spoken, captionLook.burned]).toEqual([[], 'en', false]);
    expect([closeUps, cutaways, lines, speeds, watermark]).toEqual([[], [], [], [], null]);
    expect([cover, licence, audioDescriptions, moments]).toEqual([FOUND_COVER, null, [], []]);
    const { placed, ...then } = comesTo;
    expect({ ...now, frame: { shape: frame.shape } }).toEqual(then);
    expect(frame).toEqual({ ...NEW_FRAME, shape: frame.shape });
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

it('opens the links of before; the database and its log hold none of them', async () => {
  const watch = async (token: string) => (await server.ask('GET', `/api/watch/${token}`)).status;
  expect(await Promise.all([watch(GIVEN), watch(TAKEN)])).toEqual([200, 404]);
  const { json } = await server.ask('GET', '/api/lessons/lesson-1/hand-outs');
  // The one that was taken away can be given back.
  expect(json.map(({ token, state, given }: HandOut) => [token, state, given.length])).toEqual([
    [TAKEN, 'taken-back', 1],
    [GIVEN, 'open', 1],
  ]);
  await server.inDatabase((database) => database.raw('PRAGMA wal_checkpoint(TRUNCATE)'));
  const bytes = await readFile(server.config.folders.database);
  expect([bytes.includes(GIVEN), bytes.includes(TAKEN)]).toEqual([false, false]);
});

it('says of every row whose it is', async () => {
  const names: string[] = await server.inDatabase((database) =>
    database('sqlite_master')
      .where({ type: 'table' })
      .whereNot('name', 'like', 'knex%')
      .pluck('name'),
  );
  // What can be looked for is taken from lessons, and is whose they are.
  const derived = /^(sqlite|said)/;
  for (const name of names.filter((table) => !derived.test(table))) {
    const of = await server.inDatabase((database) => database(name).distinct().pluck('teacher_id'));
    expect([name, of.filter((id) => id !== FIRST_TEACHER)]).toEqual([name, []]);
  }
});
