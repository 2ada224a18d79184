import * as fc from 'fast-check';
import { readWatched, writeWatched } from './kept-text';
import { WatchCounter } from './counter';
import {
  curveOf,
  furthest,
  inSteps,
  mostRepeated,
  secondsOf,
  shareWatched,
  unwatched,
  withPlayed,
  type Played,
} from './seconds';
import { watchedTable } from './watched-table';

describe('seconds of a film', () => {
  it('count each time that they are played, up to nine, and none beyond the end', () => {
    const once = withPlayed(unwatched(6), [
      [0, 3],
      [2, 4],
      [5, 99],
    ]);
    expect(once).toBe('112101');
    expect(withPlayed('9', [[0, 1]])).toBe('9');
  });

  it('are watched or not, however often: what is told in any order, in any parts, comes to the same', () => {
    const played = fc
      .tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 1, max: 9 }))
      .map(([from, long]): Played => [from, from + long]);
    fc.assert(
      fc.property(fc.array(played, { maxLength: 12 }), fc.nat(12), (all, cut) => {
        const whole = withPlayed(unwatched(30), all);
        const parts = withPlayed(withPlayed(unwatched(30), all.slice(cut)), all.slice(0, cut));
        expect(parts).toBe(whole);
        const seen = new Set(
          all.flatMap(([from, to]) => Array.from({ length: to - from }, (_, at) => from + at)),
        );
        const within = [...seen].filter((second) => second < 30).length;
        expect(shareWatched(whole)).toBeCloseTo(within / 30, 10);
      }),
    );
  });

  it('tell how far somebody has come', () => {
    expect(furthest('000')).toBeNull();
    expect(furthest('110100')).toBe(3);
    expect(secondsOf(61_200_000)).toBe(62);
    expect(secondsOf(0)).toBe(1);
  });
});

describe('kept as a short text', () => {
  it('comes back as it was, but for how often', () => {
    const digits = fc.array(fc.constantFrom('0', '0', '1', '3'), { minLength: 1, maxLength: 400 });
    fc.assert(
      fc.property(digits, (list) => {
        const watched = list.join('');
        const read = readWatched(writeWatched(watched, 9_999), watched.length);
        expect(read).toBe(watched.replace(/[^0]/g, '1'));
      }),
    );
  });
  it('leaves out what there is no room for, and reads nothing into what isn’t its own', () => {
    const text = writeWatched('10'.repeat(3_000), 4_096);
    expect(text.length).toBeLessThanOrEqual(4_096);
    expect(shareWatched(readWatched(text, 6_000))).toBeGreaterThan(0.05);
    expect(readWatched('zzzzz-1 4-2 <i> 1-3', 4)).toBe('0110');
  });
});

describe('the curve over a film', () => {
  it('counts everybody once a second, and apart who went back', () => {
    const { watched, again } = curveOf(['1121', '0110', '9'], 4);
    expect(watched).toEqual([2, 2, 2, 1]);
    expect(again).toEqual([1, 0, 1, 0]);
  });

  it('says which stretch was watched more than once by most', () => {
    const again = [0, 0, 1, 2, 4, 3, 1, 0, 0, 1];
    expect(mostRepeated({ watched: again, again })).toEqual([3, 6]);
    expect(mostRepeated({ watched: [3, 3], again: [0, 0] })).toBeNull();
  });

  it('keeps its peaks where there are fewer steps than seconds', () => {
    const values = Array.from({ length: 3_600 }, (_, second) => (second === 1_800 ? 7 : 1));
    const steps = inSteps(values, 100);
    expect([steps.length, Math.max(...steps)]).toEqual([100, 7]);
    expect(inSteps([1, 2], 100)).toEqual([1, 2]);
  });
});

describe('counting while it plays', () => {
  /** Looks at the film four times a second, from one place to another. */
  const play = (counter: WatchCounter, from: number, to: number, speed = 1) => {
    for (let at = from; at <= to + 1e-9; at += 0.25 * speed) counter.at(at, speed);
  };

  it('has the seconds whose middle was played', () => {
    const counter = new WatchCounter();
    play(counter, 0, 5.25);
    expect(counter.take(9)).toEqual([[0, 5]]);
    expect(counter.isEmpty).toBe(true);
    play(counter, 5.25, 6);
    expect(counter.take(9)).toEqual([[5, 6]]);
  });

  it('has nothing of what was leapt over, and twice what was gone back to', () => {
    const counter = new WatchCounter();
    play(counter, 0, 2);
    counter.leaves();
    play(counter, 30, 32);
    play(counter, 30, 31);
    expect(counter.take(9)).toEqual([
      [0, 2],
      [30, 32],
      [30, 31],
    ]);
  });

  it('has all of it at twice the speed, and nothing of a jump that it wasn’t told of', () => {
    const counter = new WatchCounter();
    play(counter, 0, 10, 2);
    counter.at(400, 2);
    counter.at(400.75, 2);
    expect(counter.take(9)).toEqual([
      [0, 10],
      [400, 401],
    ]);
  });
});

it('as a table, a name can do no harm in a spreadsheet', () => {
  const table = watchedTable([
    {
      ...{
        studentId: 'student-wen',
        name: '=HYPERLINK("x")',
        share: 0.456,
        furthestUs: 61_000_000,
      },
      ...{ openedAt: '2026-11-20T19:00:00.000Z', lastAt: '2026-11-21T19:00:00.000Z' },
    },
    {
      ...{ studentId: 'student-bram', name: 'Bram, Odo', share: 0, furthestUs: null },
      ...{ openedAt: null, lastAt: null },
    },
  ]);
  expect(table.replace('\ufeff', '').trimEnd().split('\r\n')).toEqual([
    'Student,Opened,"Watched, %","As far as, s",Watched last',
    `"'=HYPERLINK(""x"")",2026-11-20T19:00:00.000Z,46,61,2026-11-21T19:00:00.000Z`,
    '"Bram, Odo",,0,,',
  ]);
});
