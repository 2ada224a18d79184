import { areEyesShut, availabilityOf } from '@under-chalk/core/checks/eyes';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { builtScript } from '../../testing/built-scripts';
import { drawnFace } from '../../testing/drawn-face';
import { FaceFinder } from './face-finder';

jest.setTimeout(120_000);
let built: string;
let finder: FaceFinder;
beforeAll(() => {
  built = builtScript('face-thread.mjs');
  finder = new FaceFinder(built);
});
afterAll(async () => {
  await finder.close();
});

const found = async (canvas: Canvas) =>
  (await finder.find({
    ...{ pixels: canvas.data(), widthPx: canvas.width, heightPx: canvas.height },
  }))!;

it('finds a face, and tells how far its eyes are open', async () => {
  const [open, half, shut] = await Promise.all(
    [1, 0.6, 0].map(async (so) => found(await drawnFace(so))),
  );
  expect([open!.length, half!.length, shut!.length]).toEqual([1, 1, 1]);
  expect(open![0]!.high).toBeGreaterThan(0.6);
  expect(open![0]!.high).toBeLessThan(1);
  const [openTo, halfTo, shutTo] = [open, half, shut].map((faces) =>
    availabilityOf(faces![0]!.eyes[0]),
  );
  expect(openTo!).toBeGreaterThan(halfTo! + 0.03);
  expect(halfTo!).toBeGreaterThan(shutTo! + 0.03);
  expect([open, half, shut].map((faces) => areEyesShut(faces!))).toEqual([false, false, true]);
});

it('finds none where there is none, and goes on after a picture that is none', async () => {
  const empty = createCanvas(640, 360);
  expect(await found(empty)).toEqual([]);
  const broken = { pixels: new Uint8Array(7), widthPx: 640, heightPx: 360 };
  expect(await finder.find(broken)).toBeNull();
  expect(await found(await drawnFace(1))).toHaveLength(1);
});

it('tells nothing where it can’t begin', async () => {
  const none = new FaceFinder('');
  const missing = new FaceFinder(`${built}.is-not-there`);
  const picture = { pixels: new Uint8Array(4), widthPx: 1, heightPx: 1 };
  expect(await none.find(picture)).toBeNull();
  expect(await missing.find(picture)).toBeNull();
  expect(await missing.find(picture)).toBeNull();
});
