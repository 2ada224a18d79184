import type { ClassRow, ClassView } from '@under-chalk/core/contract/classes';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const DAY_MS = 86_400_000;
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const COASTAL = 'class-coastal';
const KNOTS = 'class-knots';
const unit = (id: string, name: string) => ({ id: `unit-${id}`, name });
const make = (id: string, name: string, units: object[] = []) =>
  server.ask('POST', '/api/classes', { id, name, units });
const enrol = async (id: string, ...students: (readonly [name: string, address?: string])[]) =>
  server.ask('POST', `/api/classes/${id}/students`, {
    students: students.map(([name, address = '']) => ({ name, address })),
  });
const view = async (id: string): Promise<ClassView> =>
  (await server.ask('GET', `/api/classes/${id}`)).json;
const rows = async (): Promise<ClassRow[]> => (await server.ask('GET', '/api/classes')).json;
const names = async (id: string) => (await view(id)).students.map(({ name }) => name);

test('a class has units in order, students by name, and counts its lessons', async () => {
  const units = [unit('one', 'Week 1'), unit('four', 'Week 4')];
  expect((await make(COASTAL, '  Coastal navigation ', units)).status).toBe(200);
  await enrol(COASTAL, ['Wen Castellan'], ['Bram Okafor', 'bram@lantern-quay.example']);
  expect(await view(COASTAL)).toMatchObject({ name: 'Coastal navigation', units });
  expect(await names(COASTAL)).toEqual(['Bram Okafor', 'Wen Castellan']);
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Tides' });
  await server.edit('lesson-one', { do: 'plan', set: { className: 'Coastal navigation' } });
  const [row] = await rows();
  expect(row).toMatchObject({ id: COASTAL, students: 2, lessons: 1 });
  // Changed, it keeps its students, its lessons, and what is kept for it; each of its units, too.
  await server.edit('lesson-one', { do: 'plan', set: { unit: 'Week 1' } });
  const materials = () => server.inDatabase((db) => db('class_materials').pluck('class_name'));
  await server.inDatabase((db) =>
    db('class_materials').insert({
      ...{ id: 'kept-one', class_name: 'Coastal navigation', name: 'Sheet', content: 'c' },
      ...{ aspects: '[1]', dark: false, words: '', bytes: 1, kept_at: '', teacher_id: 'teacher' },
    }),
  );
  const planOf = async () =>
    (await server.ask('GET', '/api/lessons/lesson-one')).json.lesson.decisions.plan;
  await make(COASTAL, 'Coastal navigation for beginners', [...units].reverse());
  expect((await view(COASTAL)).units.map(({ name }) => name)).toEqual(['Week 4', 'Week 1']);
  const name = 'Coastal navigation for beginners';
  expect(await planOf()).toMatchObject({ className: name, unit: 'Week 1' });
  expect(await materials()).toEqual([name]);
  expect((await rows())[0]).toMatchObject({ lessons: 1 });
  await make(COASTAL, name, [unit('four', 'Week 4'), unit('one', 'Tides')]);
  expect(await planOf()).toMatchObject({ className: name, unit: 'Tides' });
  // What nothing comes of changes nothing.
  await make('class-other', 'Taken already');
  expect((await make(COASTAL, 'Taken already')).status).toBe(409);
  expect(await planOf()).toMatchObject({ className: name });
  await server.ask('POST', '/api/classes/class-other/delete');
  expect(await names(COASTAL)).toHaveLength(2);
});

test('nobody is in a class twice; who has an address is the same student in every class', async () => {
  const again = await enrol(
    COASTAL,
    ['B. Okafor', 'BRAM@lantern-quay.example'],
    ['wen castellan'],
    ['Ines Carrow'],
  );
  expect(again.json.added).toBe(1);
  await make(KNOTS, 'Knots');
  await enrol(KNOTS, ['Bram O.', 'bram@lantern-quay.example'], ['Wen Castellan']);
  const [coastal, knots] = [await view(COASTAL), await view(KNOTS)];
  const bram = coastal.students.find(({ name }) => name === 'Bram Okafor')!;
  expect(bram.alsoIn).toEqual(['Knots']);
  // A name alone may be another's.
  const wens = [coastal, knots].map((one) =>
    one.students.find(({ name }) => name === 'Wen Castellan')!,
  );
  expect(wens[0]!.id).not.toBe(wens[1]!.id);
  const { status } = await server.ask('POST', `/api/students/${bram.id}`, {
    ...{ name: 'Bram Okafor-Lind', address: '' },
  });
  expect(status).toBe(200);
  expect(await names(KNOTS)).toEqual(['Bram Okafor-Lind', 'Wen Castellan']);
});

test('who leaves can come back; who is erased is gone from everywhere', async () => {
  const { students } = await view(COASTAL);
  const [bram] = students;
  const leave = `/api/classes/${COASTAL}/students/${bram!.id}`;
  expect((await server.ask('POST', `${leave}/leave`)).status).toBe(200);
  expect((await server.ask('POST', `${leave}/leave`)).status).toBe(404);
  expect(await names(COASTAL)).not.toContain(bram!.name);
  expect(await names(KNOTS)).toContain(bram!.name);
  expect((await server.ask('POST', `${leave}/join`)).status).toBe(200);
  expect(await names(COASTAL)).toContain(bram!.name);
  expect((await server.ask('POST', `/api/students/${bram!.id}/erase`)).status).toBe(200);
  for (const id of [COASTAL, KNOTS]) expect(await names(id)).not.toContain(bram!.name);
  expect((await server.ask('POST', `/api/students/${bram!.id}/erase`)).status).toBe(404);
  expect((await server.ask('POST', `${leave}/join`)).status).toBe(404);
  const left = await server.inDatabase((db) => db('students').where({ id: bram!.id }));
  expect(left).toEqual([]);
});

test('a class that was taken away comes back with its students, until thirty days are over', async () => {
  const before = await names(KNOTS);
  expect((await server.ask('POST', `/api/classes/${KNOTS}/delete`)).status).toBe(200);
  expect((await rows()).map(({ id }) => id)).toEqual([COASTAL]);
  expect((await server.ask('GET', `/api/classes/${KNOTS}`)).status).toBe(404);
  await server.parts.binService.sweep(Date.now() + 29 * DAY_MS);
  const back = await server.ask('POST', `/api/classes/${KNOTS}/restore`);
  expect(back.json.students.map(({ name }: { name: string }) => name)).toEqual(before);
  // Its name may have been given to another meanwhile.
  await server.ask('POST', `/api/classes/${KNOTS}/delete`);
  expect((await make(KNOTS, 'Knots and splices')).status).toBe(404);
  await make('class-knots-new', 'Knots');
  const taken = await server.ask('POST', `/api/classes/${KNOTS}/restore`);
  expect([taken.status, taken.json.code]).toEqual([409, 'class-name-taken']);
  await server.parts.binService.sweep(Date.now() + 31 * DAY_MS);
  expect((await server.ask('POST', `/api/classes/${KNOTS}/restore`)).status).toBe(404);
  const students = await server.inDatabase((db) => db('students').pluck('name'));
  // Who was in it alone is erased with it.
  expect(students.sort()).toEqual(['Ines Carrow', 'Wen Castellan']);
});

test('what can’t be is refused, and changes nothing', async () => {
  const before = await rows();
  for (const body of [
    { id: 'class-odd', name: ' ', units: [] },
    { id: '../x', name: 'Odd', units: [] },
    { id: 'class-odd', name: 'Odd', units: [{ id: 'unit-odd', name: '' }] },
    { id: 'class-odd', name: 'x'.repeat(201), units: [] },
  ])
    expect((await server.ask('POST', '/api/classes', body)).status).toBe(400);
  const same = await make('class-odd', 'Coastal navigation for beginners');
  expect([same.status, same.json.code]).toEqual([409, 'class-name-taken']);
  expect((await enrol(COASTAL, ['Noor Halden', 'no address'])).status).toBe(400);
  expect((await enrol('class-nowhere', ['Noor Halden'])).status).toBe(404);
  const many = Array.from({ length: 999 }, (_, at) => [`Student ${at}`] as const);
  const full = await enrol(COASTAL, ...many);
  expect([full.status, full.json.code]).toEqual([409, 'too-many-students']);
  expect(await rows()).toEqual(before);
});

test('no student, and nobody from outside, is told of any of it', async () => {
  const strict = await startTestServer({ demo: false });
  try {
    for (const [method, path] of [
      ['GET', '/api/classes'],
      ['GET', `/api/classes/${COASTAL}`],
      ['POST', `/api/classes/${COASTAL}/students`],
      ['POST', '/api/students/student-one/erase'],
    ] as const) {
      const { status } = await strict.ask(method, path, method === 'POST' ? {} : undefined);
      expect([path, status]).toEqual([path, 401]);
    }
  } finally {
    await strict.remove();
  }
});
