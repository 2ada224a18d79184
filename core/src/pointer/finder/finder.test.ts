import type { FoundPointer } from '../found';
import { PointerFinder } from './finder';

const [WIDE, HIGH] = [320, 192];
const STEP_US = 66_667;

/** A pointer as some desktop has it: `#` its edge, `.` its inside. */
const ARROW = [
  ...[
    '#',
    '##',
    '#.#',
    '#..#',
    '#...#',
    '#....#',
    '#.....#',
    '#......#',
    '#.......#',
    '#........#',
  ],
  ...['#.....#####', '#..#..#', '#.# #..#', '##  #..#', '#    #..#', '     #..#', '      ##'],
];

const inPlace = (luma: Uint8Array, left: number, top: number, [edge, inside] = [20, 230]) =>
  ARROW.forEach((line, row) =>
    [...line].forEach((sign, column) => {
      if (sign !== ' ') luma[(top + row) * WIDE + left + column] = sign === '#' ? edge! : inside!;
    }),
  );

/** A page with rows of something like letters, moved up by some pixels. */
const page = (up = 0): Uint8Array => {
  const luma = new Uint8Array(WIDE * HIGH).fill(226);
  for (let y = 0; y < HIGH; y++) {
    for (let x = 24; x < WIDE - 40; x++) {
      const line = Math.floor((y + up) / 14);
      const letter = Math.floor(x / 7);
      const isInk = (y + up) % 14 < 9 && ((letter * 7919 + line * 104_729) >> (x % 7)) % 3 === 0;
      if (isInk) luma[y * WIDE + x] = 40;
    }
  }
  return luma;
};

type Way = (frame: number) => readonly [x: number, y: number];
const slanting: Way = (frame) => [30 + frame * 6, 20 + frame * 3];

const find = (frames: number, draw: (frame: number) => Uint8Array): FoundPointer => {
  const finder = new PointerFinder(WIDE, HIGH);
  for (let frame = 0; frame < frames; frame++) finder.next(draw(frame), frame * STEP_US);
  return finder.finish(frames * STEP_US);
};

const withPointer = (luma: Uint8Array, [x, y]: readonly [number, number]) => {
  inPlace(luma, x, y);
  return luma;
};

/** How far what was found lies from where it was, pixels; null where it isn't sure. */
const offAt = (found: FoundPointer, way: Way, frame: number): number | null => {
  const us = frame * STEP_US;
  const run = found.runs.find(({ moves, untilUs }) => moves[0]!.atUs <= us && us <= untilUs);
  const at = run?.moves.findLast(({ atUs }) => atUs <= us);
  const [x, y] = way(frame);
  return at ? Math.hypot(at.x * WIDE - x, at.y * WIDE - y) : null;
};

test('a pointer that moves over letters is followed, and known from before it began to move', () => {
  const way: Way = (frame) => slanting(Math.max(0, Math.min(25, frame - 10)));
  const found = find(40, (frame) => withPointer(page(), way(frame)));
  for (let frame = 2; frame < 40; frame++) expect(offAt(found, way, frame)).toBeLessThan(4);
  expect(found.sureShare).toBeGreaterThan(0.9);
  expect(found.runs.flatMap(({ moves }) => moves).every(({ certainty }) => certainty > 0.6)).toBe(
    true,
  );
});

test('a dark one with a light edge is found as well', () => {
  const found = find(30, (frame) => {
    const luma = page();
    inPlace(luma, ...slanting(frame), [240, 15]);
    return luma;
  });
  expect(offAt(found, slanting, 20)).toBeLessThan(4);
});

test('it stays where it is while the page under it goes on', () => {
  const way: Way = (frame) => (frame < 16 ? slanting(frame) : slanting(16));
  const found = find(40, (frame) => withPointer(page(Math.max(0, frame - 18) * 5), way(frame)));
  for (const frame of [20, 30, 39]) expect(offAt(found, way, frame)).toBeLessThan(4);
});

test('what never moves, and what moves along with the page, is no pointer', () => {
  const still = find(24, (frame) => {
    const luma = withPointer(page(), [100, 60]);
    luma.fill(frame % 2 === 0 ? 20 : 200, 20 * WIDE + 250, 20 * WIDE + 270);
    return luma;
  });
  expect(still.runs).toEqual([]);
  const along = find(24, (frame) => {
    const luma = page(frame * 3);
    inPlace(luma, 100, 150 - frame * 3);
    return luma;
  });
  expect(along.runs).toEqual([]);
});

test('a page that moves, without a pointer, has none', () => {
  expect(find(30, (frame) => page(frame * 4)).runs).toEqual([]);
});

test('a pointer that is hidden is not said to be anywhere, and is found again', () => {
  const found = find(50, (frame) =>
    frame < 20 || frame >= 32 ? withPointer(page(), slanting(frame % 26)) : page(),
  );
  const way: Way = (frame) => slanting(frame % 26);
  expect(offAt(found, way, 15)).toBeLessThan(4);
  expect(offAt(found, way, 26)).toBeNull();
  expect(offAt(found, way, 45)).toBeLessThan(4);
});

test('a press is offered where it rests and the picture changes under it, and not for a caret that blinks', () => {
  const way: Way = (frame) => slanting(Math.min(20, frame));
  const draw = (pressedAt: number, wide: number) => (frame: number) => {
    const luma = page();
    const [x, y] = way(20);
    if (frame >= pressedAt) {
      for (let row = y - 4; row < y + 14; row++)
        luma.fill(120, row * WIDE + x - 6, row * WIDE + x - 6 + wide);
    }
    return withPointer(luma, way(frame));
  };
  const { presses } = find(45, draw(34, 40));
  expect(presses).toHaveLength(1);
  const [x, y] = way(20);
  expect(Math.hypot(presses[0]!.x * WIDE - x, presses[0]!.y * WIDE - y)).toBeLessThan(4);
  expect(Math.abs(presses[0]!.atUs - 34 * STEP_US)).toBeLessThan(200_000);
  expect(find(45, draw(34, 2)).presses).toEqual([]);
});
