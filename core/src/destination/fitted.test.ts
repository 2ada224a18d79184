import * as fc from 'fast-check';
import { fittedFor, smallerBytes } from './fitted';

const s = (seconds: number) => seconds * 1_000_000;
const HD = { widthPx: 1920, heightPx: 1080 };

it('leaves the picture as large as there are bits for it', () => {
  // A minute in 60 MB: more than enough.
  expect(fittedFor(60e6, s(60), HD)).toMatchObject({ size: HD, soundBits: 160_000 });
  // Twenty minutes in the same: 0.39 Mbit/s in all.
  expect(fittedFor(60e6, s(1_200), HD)!.size).toEqual({ widthPx: 960, heightPx: 540 });
  // An hour: less sound, too.
  const hour = fittedFor(60e6, s(3_600), HD)!;
  expect([hour.size.heightPx, hour.soundBits]).toEqual([240, 64_000]);
});

it('makes nothing larger than it is, and stands upright where the film does', () => {
  const small = { widthPx: 640, heightPx: 360 };
  expect(fittedFor(60e6, s(60), small)!.size).toEqual(small);
  const upright = fittedFor(60e6, s(1_200), { widthPx: 1080, heightPx: 1920 })!.size;
  expect(upright).toEqual({ widthPx: 540, heightPx: 960 });
});

it('has about half the bytes where a smaller file is wanted, and none of what is small', () => {
  expect(smallerBytes(7_340_032)).toBe(3_700_000);
  expect(smallerBytes(1_999_999_999)).toBe(1_000_000_000);
  expect(smallerBytes(990_000)).toBeNull();
});

it('says where it can’t be', () => {
  expect(fittedFor(1e6, s(3_600), HD)).toBeNull();
});

it('never asks for more than there is room for', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 100_000, max: 4_000_000_000 }),
      fc.integer({ min: 1, max: 7_200 }),
      (bytes, seconds) => {
        const fitted = fittedFor(bytes, s(seconds), HD);
        if (!fitted) return;
        const { pictureBits, soundBits, size } = fitted;
        expect(((pictureBits + soundBits) * seconds) / 8).toBeLessThanOrEqual(bytes);
        expect([size.widthPx % 2, size.heightPx % 2]).toEqual([0, 0]);
      },
    ),
  ));
