import { inTurns, type Missing } from './in-turns';
import { AskedPieces } from './piece-order';

/** Pieces that are made when the test says so. */
const held = () => {
  const begun = new Map<string, () => void>();
  const piece = (of: 'picture' | 'sound', index: number): Missing => ({
    ...{ of, index, frame: index * 80 },
    make: () => new Promise((resolve) => begun.set(`${of} ${index}`, resolve)),
  });
  const pieces = [0, 1, 2, 3].map((index) => piece('picture', index));
  return { begun, pieces: [...pieces, piece('sound', 0), piece('sound', 1)] };
};
const soon = () => new Promise((resolve) => setImmediate(resolve));
const hold = () => new Promise<() => void>(() => undefined);

it('makes sound that somebody waits for beside pictures that others wait for', async () => {
  const { begun, pieces } = held();
  const asked = new AskedPieces();
  const stop = new AbortController();
  const over = inTurns(pieces, { asked, turn: hold }, stop);
  for (const index of [1, 2, 3]) asked.ask({ of: 'picture', index });
  for (const index of [1, 0]) asked.ask({ of: 'sound', index });
  await soon();
  expect([...begun.keys()]).toEqual(['picture 1', 'picture 2', 'sound 1']);
  begun.get('sound 1')!();
  await soon();
  expect([...begun.keys()].at(-1)).toBe('sound 0');
  begun.get('picture 1')!();
  await soon();
  expect([...begun.keys()].at(-1)).toBe('picture 3');
  stop.abort(new Error('called off'));
  for (const done of begun.values()) done();
  void over.catch(() => undefined);
});

it('stops with the first that fails', async () => {
  const failing = (of: 'picture' | 'sound', fails: boolean): Missing => ({
    ...{ of, index: 0, frame: 0 },
    make: () => (fails ? Promise.reject(new Error('no room')) : Promise.resolve()),
  });
  const stop = new AbortController();
  const all = [failing('sound', false), failing('picture', true)];
  await expect(inTurns(all, {}, stop)).rejects.toThrow('no room');
  expect(stop.signal.aborted).toBe(true);
});
