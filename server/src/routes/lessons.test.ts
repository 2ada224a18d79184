import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const lessonId = 'lesson-tides';
const edits = `/api/lessons/${lessonId}/edits`;
let count = 0;
/** An entry of one edit. */
const entry = (edit: unknown, more: object = {}) => ({
  id: `entry-of-test-${++count}`,
  by: 'teacher',
  edit,
  ...more,
});
const put = (baseRevision: number, entries: unknown[], anyway: string[] = []) =>
  server.ask('POST', edits, { baseRevision, entries, anyway });
const titled = (title: string, more: object = {}) => entry({ do: 'plan', set: { title } }, more);
const softened = (layoutTransitionUs: number, more: object = {}) =>
  entry({ do: 'set-layout-transition', layoutTransitionUs }, more);
const cut = (startUs: number, more: object = {}) =>
  entry({ do: 'cut', takeId: 'take-one', startUs, endUs: startUs + 5 }, more);
const now = async () => (await server.ask('GET', `/api/lessons/${lessonId}`)).json;

it('begins a lesson, once', async () => {
  const made = await server.ask('POST', '/api/lessons', { id: lessonId, title: 'Tide heights' });
  expect(made.json.lesson).toMatchObject({
    revision: 1,
    decisions: { plan: { title: 'Tide heights' } },
  });
  expect((await server.ask('POST', '/api/lessons', { id: lessonId, title: '' })).status).toBe(409);
});

it('lets two tabs change different things, and both stand', async () => {
  const first = softened(0);
  await put(1, [first]);
  const title = titled('Tide heights by the rule of twelfths');
  const second = await put(1, [title]);
  // The answer has what was missed, and what was put down, in their order.
  expect(second.json).toMatchObject({ revision: 3, since: [first, title], collided: [] });
  expect((await now()).lesson.decisions).toMatchObject({
    layoutTransitionUs: 0,
    plan: { title: 'Tide heights by the rule of twelfths' },
  });
});

it('does not overwrite the same thing silently, but on request; the rest of a line stands', async () => {
  const seen = (await now()).lesson.revision;
  await put(seen, [softened(200_000)]);
  const [mine, beside] = [softened(900_000), titled('Tide heights')];
  const stopped = await put(seen, [mine, beside]);
  expect(stopped.json).toMatchObject({ revision: seen + 2, collided: [mine.id] });
  const { decisions } = (await now()).lesson;
  expect([decisions.layoutTransitionUs, decisions.plan.title]).toEqual([200_000, 'Tide heights']);
  const forced = await put(seen, [mine], [mine.id]);
  expect(forced.json.collided).toEqual([]);
  expect((await now()).lesson.decisions.layoutTransitionUs).toBe(900_000);
});

it('keeps what belongs to one press together: one that collides holds back the others', async () => {
  const seen = (await now()).lesson.revision;
  await put(seen, [softened(100_000)]);
  const group = { group: 'press-of-three' };
  const press = [cut(10_000, group), softened(300_000, group), cut(20_000, group)];
  const { json } = await put(seen, press);
  expect(json.collided.sort()).toEqual(press.map(({ id }) => id).sort());
  expect((await now()).lesson.decisions.cuts).toEqual([]);
  expect((await now()).lesson.revision).toBe(seen + 1);
});

it('puts down once what is sent twice, also beside something new', async () => {
  const seen = (await now()).lesson.revision;
  const sent = [softened(900_000)];
  await put(seen, sent);
  const { json } = await put(seen, [...sent, titled('Sent twice')]);
  expect(json).toMatchObject({ revision: seen + 2, collided: [] });
  expect(json.since).toHaveLength(2);
});

it('keeps undo and redo in the list, over a restart of the server', async () => {
  const before = await now();
  const { entries } = before.steps.undo.at(-1);
  const { json } = await put(before.lesson.revision, [entry({ do: 'undo', entries })]);
  // An undo can't be laid over what a browser has: it is told what all comes to.
  expect([json.since.length, json.decisions.layoutTransitionUs]).toEqual([1, 100_000]);
  const { home } = server.config.folders;
  await server.stop();
  server = await startTestServer({ home });
  const after = await now();
  expect(after.steps.redo.at(-1).entries).toEqual(entries);
  expect(after.lesson.decisions.layoutTransitionUs).toBe(100_000);
  await put(after.lesson.revision, [entry({ do: 'redo', entries })]);
  expect((await now()).lesson.decisions.layoutTransitionUs).toBe(900_000);
});

it('puts down edits of a lesson archive all or not at all', async () => {
  const { json: before } = await server.ask('GET', edits);
  const backwards = entry({ do: 'cut', takeId: 'take-one', startUs: 5, endUs: 5 });
  const bad = await put(99, [titled('x'), backwards]);
  expect(bad.status).toBe(400);
  expect((await server.ask('GET', edits)).json).toEqual(before);
});

it('gives two edits sent at the same moment a revision each', async () => {
  const before = await now();
  await Promise.all(
    [0, 100, 200, 300].map((startUs) => put(before.lesson.revision, [cut(startUs)])),
  );
  const after = await now();
  expect(after.lesson.revision).toBe(before.lesson.revision + 4);
  expect(after.lesson.decisions.cuts).toHaveLength(4);
});

it('lists lessons, last changed first', async () => {
  await server.ask('POST', '/api/lessons', { id: 'lesson-two', title: 'Week four: welcome' });
  const { json } = await server.ask('GET', '/api/lessons');
  expect(json.map((row: { id: string }) => row.id)).toEqual(['lesson-two', lessonId]);
});

it('has no lesson that it does not have', async () => {
  expect((await server.ask('GET', '/api/lessons/no-such-lesson')).status).toBe(404);
  expect(
    (
      await server.ask('POST', '/api/lessons/no-such-lesson/edits', {
        baseRevision: 0,
        entries: [titled('x')],
      })
    ).status,
  ).toBe(404);
});

it('keeps a lesson readable that has edits of a later version, and says so', async () => {
  await server.inDatabase(async (database) => {
    for (const [index, text] of [
      '{"id":"from-tomorrow","edit":{"do":"hologram"}}',
      '{"torn',
    ].entries()) {
      await database('edits').insert({
        lesson_id: 'lesson-two',
        revision: index + 2,
        entry_id: `strange-${index}`,
        entry: text,
        at: new Date().toISOString(),
      });
    }
  });
  const { json } = await server.ask('GET', '/api/lessons/lesson-two');
  expect([json.unknown, json.lesson.revision]).toEqual([2, 3]);
  expect(json.lesson.decisions.plan.title).toBe('Week four: welcome');
  const after = await server.edit('lesson-two', { do: 'plan', set: { title: 'Week four' } });
  expect([after.lesson.revision, after.lesson.decisions.plan.title]).toEqual([4, 'Week four']);
  const list = (await server.ask('GET', '/api/lessons/lesson-two/edits')).json;
  expect(list[1].entry).toEqual({ id: 'from-tomorrow', unknown: true });
});

it('keeps a summary beside each lesson, and makes it anew only when it has changed', async () => {
  const read = jest.spyOn(server.parts.lessons, 'view');
  const titles = async () =>
    (await server.ask('GET', '/api/lessons')).json.map(({ title }: { title: string }) => title);
  const before = await titles();
  read.mockClear();
  expect(await titles()).toEqual(before);
  expect(read).not.toHaveBeenCalled();
  await server.edit('lesson-two', { do: 'plan', set: { title: 'Week five' } });
  read.mockClear();
  expect(await titles()).toContain('Week five');
  expect(read.mock.calls).toEqual([['lesson-two']]);
  read.mockRestore();
});

it('tells of a lesson that can’t be read, shows the others, and lets it be put away', async () => {
  const rows = async () =>
    (await server.ask('GET', '/api/lessons')).json.map(
      (row: { id: string; problem: string | null }) => [row.id, row.problem],
    );
  await server.inDatabase(async (database) => {
    // What was read once is held: it is torn, and made of something else.
    const torn = { summary: '{"torn', summary_of: 'torn' };
    await database('lessons').where({ id: 'lesson-two' }).update(torn);
  });
  const read = jest.spyOn(server.parts.lessons, 'view').mockRejectedValueOnce(new Error('torn'));
  expect(await rows()).toEqual([
    ['lesson-two', 'lesson-unreadable'],
    [lessonId, null],
  ]);
  read.mockRestore();
  // What can be read again is in the list again.
  expect(await rows()).toContainEqual(['lesson-two', null]);
  await server.ask('POST', '/api/bin/lesson/lesson-two');
  expect(await rows()).toEqual([[lessonId, null]]);
  await server.ask('POST', '/api/bin/lesson/lesson-two/restore');
  expect(await rows()).toHaveLength(2);
  expect((await server.ask('POST', '/api/bin/lesson/no-such-lesson')).status).toBe(404);
});

it('shows a stretch of another lesson in this one, with the facts of its take', async () => {
  const take = { id: 'take-of-two', source: 'film', practice: false };
  const tracks = [{ id: 'take-of-two-surface', kind: 'surface' }];
  await server.ask('POST', '/api/lessons/lesson-two/takes', { ...take, tracks });
  const placement = { id: 'place-of-two', takeId: take.id, rank: 'a5' };
  const { lesson } = await server.edit(lessonId, { do: 'place', placement, arrives: false });
  expect(lesson.takes.map(({ id }: { id: string }) => id)).toContain(take.id);
});

it('tells of a take that can’t be right, and shows its lesson', async () => {
  const take = { id: 'take-odd', source: 'film', practice: false };
  const tracks = [{ id: 'take-odd-surface', kind: 'surface' }];
  await server.ask('POST', `/api/lessons/${lessonId}/takes`, { ...take, tracks });
  const twice = [...tracks, ...tracks];
  const again = { ...take, id: 'take-twice', tracks: twice };
  expect((await server.ask('POST', `/api/lessons/${lessonId}/takes`, again)).status).toBe(400);
  await server.inDatabase(async (database) => {
    await database('takes')
      .where({ id: 'take-odd' })
      .update({ state: 'ready', duration_us: 100_000_000_000 });
  });
  const { lesson } = (await server.ask('GET', `/api/lessons/${lessonId}`)).json;
  expect(lesson.takes.find(({ id }: { id: string }) => id === 'take-odd')).toMatchObject({
    state: 'unusable',
    problem: 'take-unreadable',
  });
});

it('makes a copy of a lesson: the same decisions and takes, and each goes its own way', async () => {
  const path = `/api/lessons/${lessonId}`;
  const first = (await server.ask('GET', path)).json;
  const { json, status } = await server.ask('POST', `${path}/duplicate`, { id: 'lesson-copy' });
  expect(status).toBe(200);
  const { plan, ...decided } = json.lesson.decisions;
  expect(plan.title).toBe(`Copy of ${first.lesson.decisions.plan.title}`);
  expect({ ...decided, plan: first.lesson.decisions.plan }).toEqual(first.lesson.decisions);
  const placed = decided.placements.map(({ takeId }: { takeId: string }) => takeId);
  const takes = json.lesson.takes.map(({ id }: { id: string }) => id);
  expect(takes).toEqual(expect.arrayContaining(placed));
  await server.edit('lesson-copy', { do: 'set-layout-transition', layoutTransitionUs: 123_000 });
  expect((await server.ask('GET', path)).json.lesson).toEqual(first.lesson);
  const again = await server.ask('POST', `${path}/duplicate`, { id: 'lesson-copy' });
  expect(again.status).toBe(409);
});

it('a copy of a lesson keeps takes that are only heard or seen beside others', async () => {
  const take = (id: string) =>
    server.ask('POST', `/api/lessons/${lessonId}/takes`, {
      ...{ id, source: 'sound', practice: false },
      tracks: [{ id: `${id}-voice`, kind: 'voice' }],
    });
  for (const id of ['take-spoken', 'take-shown']) expect((await take(id)).status).toBe(200);
  const by = (takeId: string) => ({ takeId, fromUs: 0, sinceUs: 0 });
  const stretch = { takeId: 'take-spoken', startUs: 0, endUs: 1_000_000 };
  await server.edit(
    lessonId,
    { do: 'set-voice-over', ...stretch, by: by('take-spoken') },
    { do: 'set-cutaway', ...stretch, of: by('take-shown') },
  );
  const copied = await server.ask('POST', `/api/lessons/${lessonId}/duplicate`, { id: 'copy-two' });
  const takes = copied.json.lesson.takes.map(({ id }: { id: string }) => id);
  expect(takes).toEqual(expect.arrayContaining(['take-spoken', 'take-shown']));
});

describe('several lessons at a time', () => {
  const move = (...moves: { lessonId: string; className: string; unit: string }[]) =>
    server.ask('POST', '/api/move-lessons', { moves });
  it('are moved to a class and unit, each by itself, as an edit like any other', async () => {
    for (const id of ['lesson-move-a', 'lesson-move-b'])
      await server.ask('POST', '/api/lessons', { id, title: id });
    const to = { className: 'Knots', unit: 'Week 2' };
    const { json } = await move(
      { lessonId: 'lesson-move-a', ...to },
      { lessonId: 'lesson-none', ...to },
      { lessonId: 'lesson-move-b', ...to },
    );
    expect(json.moved).toEqual(['lesson-move-a', 'lesson-move-b']);
    const rows = (await server.ask('GET', '/api/lessons')).json as LessonRow[];
    const moved = rows.filter(({ id }) => id.startsWith('lesson-move'));
    expect(moved.map(({ className, unit }) => [className, unit])).toEqual([
      ['Knots', 'Week 2'],
      ['Knots', 'Week 2'],
    ]);
    const edits = (await server.ask('GET', '/api/lessons/lesson-move-a/edits')).json;
    expect(edits.at(-1).entry).toMatchObject({ by: 'teacher', edit: { do: 'plan', set: to } });
  });
  it('are not moved to what is no name, nor none of them', async () => {
    const long = { lessonId: 'lesson-move-a', className: 'x'.repeat(200), unit: '' };
    expect((await move(long)).status).toBe(400);
    expect((await move()).status).toBe(400);
  });
});

it('puts lessons into the archive and takes them out, with nothing else changed', async () => {
  const row = async () =>
    (await server.ask('GET', '/api/lessons')).json.find(
      ({ id }: { id: string }) => id === lessonId,
    ) as { archived: boolean; updatedAt: string };
  const before = await row();
  const archive = (archived: boolean, ...lessonIds: string[]) =>
    server.ask('POST', '/api/archive-lessons', { lessonIds, archived });
  expect(before.archived).toBe(false);
  // What isn't there keeps nothing from it, and what is so already isn't told of.
  const { json } = await archive(true, lessonId, 'no-such-lesson');
  expect(json).toEqual({ changed: [lessonId] });
  expect((await archive(true, lessonId)).json).toEqual({ changed: [] });
  expect(await row()).toEqual({ ...before, archived: true });
  expect((await server.ask('GET', `/api/lessons/${lessonId}`)).status).toBe(200);
  expect((await archive(false, lessonId)).json).toEqual({ changed: [lessonId] });
  expect(await row()).toEqual(before);
  expect((await archive(true)).status).toBe(400);
});
