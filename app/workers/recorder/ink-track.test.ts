import { readInk, type InkRecord } from '@under-chalk/core/ink/record';
import { TakeClock } from '@under-chalk/core/time/take-clock';
import { InkTrack } from './ink-track';
import type { PieceLine } from './piece-line';

const wipe = (at: number): InkRecord => ({ at, do: 'wipe', strokes: ['stroke-one'] });

const recorded = () => {
  const clock = new TakeClock();
  const track = new InkTrack('track-ink', clock);
  const pieces: string[] = [];
  let closed = false;
  track.begin({
    write: async (bytes: Uint8Array) => void pieces.push(new TextDecoder().decode(bytes)),
    close: () => {
      closed = true;
    },
  } as unknown as PieceLine);
  return { clock, track, pieces, isClosed: () => closed };
};

it('puts records on the take’s clock: how it stood at the start at 0, in a pause where it stands', async () => {
  const { clock, track, pieces } = recorded();
  clock.start(1_000_000);
  // Told late by a page that had more to do.
  track.write([wipe(400_000), wipe(1_030_000)]);
  track.write([wipe(900_000), wipe(1_250_000)]);
  clock.pause(2_000_000);
  track.write([wipe(2_500_000), wipe(3_500_000)]);
  clock.resume(4_000_000);
  track.write([wipe(4_100_000)]);
  await track.flush();
  expect(readInk(pieces.join('')).records.map(({ at }) => at)).toEqual([
    0, 0, 0, 250_000, 1_000_000, 1_000_000, 1_100_000,
  ]);
  expect(track.packets).toBe(7);
});

it('hands on whole records, in order, and the last of them at the end', async () => {
  const { clock, track, pieces, isClosed } = recorded();
  clock.start(0);
  track.write([]);
  track.write([wipe(1), wipe(2)]);
  void track.flush();
  track.write([wipe(3)]);
  // One that came late never runs backwards.
  track.write([wipe(2)]);
  await track.finish();
  expect(pieces.every((piece) => piece.endsWith('\n'))).toBe(true);
  expect(readInk(pieces.join('')).records.map(({ at }) => at)).toEqual([1, 2, 3, 3]);
  expect(isClosed()).toBe(true);
});
