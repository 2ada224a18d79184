import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeSlice, type FootageSoFar } from './footage-so-far';

const MS = 1_000;
let folder: string;
let footage: FootageSoFar;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-slices-'));
  const path = join(folder, 'came');
  await writeFile(path, 'HEAD-aaaa-bbbb-cccc-dddd');
  const fragment = (at: number, startUs: number, untilUs: number) => ({
    ...{ from: 5 * at, end: 5 * at + 5, startUs, untilUs, digest: '' },
  });
  footage = {
    path,
    fragments: [
      fragment(1, 0, 2_000 * MS),
      fragment(2, 2_000 * MS, 3_990 * MS),
      fragment(3, 3_990 * MS, 6_000 * MS),
      fragment(4, 6_000 * MS, 8_000 * MS),
    ],
  };
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const slice = async (fromMs: number, toMs: number) => {
  const out = join(folder, 'slice');
  const { path } = await writeSlice(footage, fromMs * MS, toMs * MS, out);
  return readFile(path, 'utf8');
};

it('has the head, the first fragment and those of a stretch', async () => {
  expect(await slice(0, 0)).toBe('HEAD-aaaa-');
  expect(await slice(500, 2_500)).toBe('HEAD-aaaa-bbbb-');
  expect(await slice(4_000, 5_000)).toBe('HEAD-aaaa-cccc-');
  expect(await slice(6_500, 7_000)).toBe('HEAD-aaaa-dddd');
  expect(await slice(4_000, 7_000)).toBe('HEAD-aaaa-cccc-dddd');
});

it('has the picture that is on show before the frame that it was recorded for', async () => {
  // The third begins at 3.99 s: it may be shown from the frame at 3.967 s on, whose middle is at 3.983 s.
  expect(await slice(2_500, 3_967)).toBe('HEAD-aaaa-bbbb-cccc-');
  expect(await slice(2_500, 3_900)).toBe('HEAD-aaaa-bbbb-');
});

it('ends with what has come', async () => {
  expect(await slice(6_500, 9_000)).toBe('HEAD-aaaa-dddd');
});
