import { expect, test } from '@playwright/test';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FAILURES, smallDisk, tryFailure, type Failure } from './failures';
import { makeCamera, makeVoice } from './media';

/** Each failure of a recording once; `npm run bench recorder` does each ten times. */

let folder: string;
let devices: { voice: string; camera: string };

test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-failures-'));
  devices = { voice: makeVoice(folder), camera: makeCamera(folder) };
});
test.afterAll(() => rm(folder, { recursive: true, force: true }));

/** How long it goes on, s, and the most that may be lost of any track, ms. */
const EXPECTED: Record<Failure, [seconds: number, mostLostMs: number]> = {
  'kill the renderer': [4, 2_000],
  'kill the browser': [4, 2_000],
  'kill the server': [4, 0],
  'cut the connection': [6, 0],
  'fill the browser store': [6, 2_000],
  'fill the server disk': [4, 0],
  'fail the encoder': [6, 2_000],
};

for (const kind of FAILURES) {
  test(`recording is safe: ${kind}`, async () => {
    if (kind === 'fill the server disk') {
      const disk = smallDisk();
      disk?.remove();
      test.skip(disk === null, 'this machine lets nobody mount a small disk');
    }
    const [seconds, most] = EXPECTED[kind];
    const cost = await tryFailure(kind, seconds, devices);
    expect(cost).toMatchObject({ corrupt: false });
    expect(cost.lostMs, JSON.stringify(cost.tracks)).toBeLessThanOrEqual(most);
  });
}
