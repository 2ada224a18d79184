import * as fc from 'fast-check';
import { bytesByPart, spreadOver } from './bytes-by-part';

const even = (count: number) =>
  Array.from({ length: count }, () => ({ frames: 60, bytes: 50_000 }));

it('tells nothing of too little, and all of what is all there', () => {
  expect(bytesByPart([], { pieces: 20, frames: 1_200 })).toBeNull();
  expect(bytesByPart(even(4), { pieces: 20, frames: 1_200 })).toBeNull();
  expect(bytesByPart(even(4), { pieces: 4, frames: 240 })).toEqual({ bytes: 200_000, within: 0 });
  expect(bytesByPart([], { pieces: 0, frames: 0 })).toBeNull();
});

it('is sure of pieces that are alike, and less of those that are not', () => {
  expect(bytesByPart(even(5), { pieces: 20, frames: 1_200 })).toEqual({
    ...{ bytes: 1_000_000, within: 0 },
  });
  const unlike = even(6).map((piece, at) => ({ ...piece, bytes: at % 2 ? 10_000 : 90_000 }));
  const told = bytesByPart(unlike, { pieces: 60, frames: 3_600 })!;
  expect(told.bytes).toBe(3_000_000);
  expect(told.within).toBeGreaterThan(0.5);
});

it('is as wrong as it says it may be in about five of a hundred films', () => {
  // A generator of our own: the same films at each run.
  let seed = 7;
  const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
  let wrong = 0;
  for (let film = 0; film < 1_000; film++) {
    const pieces = Array.from({ length: 60 }, () => {
      const frames = 40 + Math.round(40 * random());
      return { frames, bytes: frames * (300 + 900 * random()) };
    });
    const sample = spreadOver(60)
      .slice(0, 20)
      .map((at) => pieces[at]!);
    const frames = pieces.reduce((sum, piece) => sum + piece.frames, 0);
    const bytes = pieces.reduce((sum, piece) => sum + piece.bytes, 0);
    const told = bytesByPart(sample, { pieces: 60, frames })!;
    if (Math.abs(told.bytes - bytes) > told.within * told.bytes) wrong++;
  }
  expect(wrong).toBeGreaterThan(20);
  expect(wrong).toBeLessThan(90);
});

it('spreads what comes next evenly over all, each once', () => {
  expect(spreadOver(8)).toEqual([0, 4, 2, 6, 1, 5, 3, 7]);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 500 }), (pieces) => {
      const order = spreadOver(pieces);
      expect([...order].sort((a, b) => a - b)).toEqual(
        Array.from({ length: pieces }, (_, at) => at),
      );
      // Of each quarter as many as of any other, or two more.
      const first = order.slice(0, Math.ceil(pieces / 3));
      const quarters = [0, 0, 0, 0];
      for (const at of first) quarters[Math.min(3, Math.floor((at * 4) / pieces))]!++;
      if (pieces >= 16)
        expect(Math.max(...quarters) - Math.min(...quarters)).toBeLessThanOrEqual(2 + pieces / 12);
    }),
  );
});
