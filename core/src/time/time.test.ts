import { frameAt, frameToSample, frameToUs, nearestFrame } from './frames';
import { intersect, merge, subtract } from './ranges';
import { LookAheadClock, SourceClock } from './source-clock';
import { TakeClock } from './take-clock';
import { formatClock, formatSpoken, formatTenths, parseClock, toSecondsText } from './us';

const r = (startUs: number, endUs: number) => ({ startUs, endUs });

describe('clock texts', () => {
  it('reads like a clock', () => {
    expect(formatClock(0)).toBe('0:00');
    expect(formatClock(245_900_000)).toBe('4:05');
    expect(formatClock(3_725_000_000)).toBe('1:02:05');
    expect(formatClock(-5)).toBe('0:00');
  });
  it('has tenths for fine work', () => expect(formatTenths(61_290_000)).toBe('1:01.2'));
  it('is read as it is typed', () => {
    const typed = ['1:02.5', '0:07', '12,5', '1:02:03', '', 'soon', '1:2:3:4', '-3'];
    expect(typed.map((text) => parseClock(text))).toEqual([
      ...[62_500_000, 7_000_000, 12_500_000, 3_723_000_000],
      ...[null, null, null, null],
    ]);
  });
  it('can be spoken', () => {
    expect(formatSpoken(245_000_000)).toBe('4 min 5 s');
    expect(formatSpoken(3_600_000_000)).toBe('1 h');
  });
  it('keeps every microsecond in seconds text', () => {
    expect(toSecondsText(33_333)).toBe('0.033333');
    expect(toSecondsText(-1_500_000)).toBe('-1.500000');
  });
});

describe('ranges', () => {
  it('merges what touches and drops what is empty', () =>
    expect(merge([r(5, 9), r(0, 5), r(20, 20), r(12, 14)])).toEqual([r(0, 9), r(12, 14)]));
  it('takes holes out', () =>
    expect(subtract([r(0, 100)], [r(10, 20), r(90, 200), r(0, 1)])).toEqual([r(1, 10), r(20, 90)]));
  it('leaves nothing when the hole covers all', () =>
    expect(subtract([r(3, 8)], [r(0, 10)])).toEqual([]));
  it('finds common time', () =>
    expect(intersect([r(0, 10), r(20, 30)], [r(5, 25)])).toEqual([r(5, 10), r(20, 25)]));
});

describe('the frame grid', () => {
  it('goes there and back for two hours of frames', () => {
    for (let frame = 0; frame < 216_000; frame += 97) {
      expect(frameAt(frameToUs(frame))).toBe(frame);
      expect(nearestFrame(frameToUs(frame))).toBe(frame);
    }
  });
  it('shows a frame until the next one starts', () => {
    expect(frameAt(33_332)).toBe(0);
    expect(frameAt(66_000)).toBe(1);
  });
  it('counts samples without adding up rounding', () =>
    expect(frameToSample(30 * 600, 48_000)).toBe(48_000 * 600));
});

/** Repeatable noise, 0 to 1. */
const noise = (seed: number) => () => {
  seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31;
  return seed / 2 ** 31;
};

describe('SourceClock', () => {
  it('finds the offset under jittery delivery and follows 100 ppm of drift for ten minutes', () => {
    const clock = new SourceClock();
    const random = noise(4);
    let worst = 0;
    for (let n = 0; n < 600 * 50; n++) {
      const trueUs = 1_000_000 + n * 20_000;
      const stampUs = Math.round(n * 20_000 * (1 - 100e-6));
      const late = random() ** 4 * 60_000;
      const placed = clock.place(stampUs, trueUs + late);
      if (n > 100) worst = Math.max(worst, Math.abs(placed - trueUs));
    }
    expect(worst).toBeLessThan(5_000);
  });
  it('sees within a second that a source stood still, and follows it', () => {
    const clock = new SourceClock();
    for (let n = 0; n < 300; n++) clock.place(n * 10_000, n * 10_000 + 2_000);
    // The count of samples goes on; the world is 400 ms further.
    let placed = 0;
    for (let n = 300; n < 420; n++) placed = clock.place(n * 10_000, n * 10_000 + 402_000);
    expect(placed).toBe(419 * 10_000 + 402_000);
  });
  it('believes a source at once that has caught up', () => {
    const clock = new SourceClock();
    for (let n = 0; n < 100; n++) clock.place(n * 10_000, n * 10_000 + 90_000);
    expect(clock.place(1_000_000, 1_005_000)).toBe(1_005_000);
  });
  it('does not jump for one delivery that is half a second late', () => {
    const clock = new SourceClock();
    for (let n = 0; n < 200; n++) clock.place(n * 33_333, n * 33_333 + 1_000);
    const placed = clock.place(200 * 33_333, 200 * 33_333 + 500_000);
    expect(Math.abs(placed - 200 * 33_333 - 1_000)).toBeLessThan(600);
  });
});

describe('TakeClock', () => {
  it('stands still while paused', () => {
    const clock = new TakeClock();
    expect(clock.recordedAt(50)).toBeNull();
    clock.start(100);
    clock.pause(400);
    clock.pause(450);
    clock.resume(1_000);
    expect(clock.recordedAt(99)).toBeNull();
    expect(clock.recordedAt(399)).toBe(299);
    expect(clock.recordedAt(700)).toBeNull();
    expect(clock.recordedAt(1_100)).toBe(400);
    expect(clock.elapsedAt(700)).toBe(300);
    expect(clock.elapsedAt(1_100)).toBe(400);
  });
  it('can be started once only', () => {
    const clock = new TakeClock();
    clock.start(0);
    expect(() => clock.start(1)).toThrow(RangeError);
  });
});

describe('LookAheadClock', () => {
  /** Places blocks of 10 ms that arrive as told, ms after they were counted; gives errors against the truth. */
  const errors = (lateMs: (n: number) => number, count: number, trueMs = (n: number) => n * 10) => {
    const clock = new LookAheadClock<number>();
    const placed = [];
    for (let n = 0; n < count; n++) {
      placed.push(...clock.place(n, n * 10_000, (trueMs(n) + lateMs(n)) * 1_000));
    }
    placed.push(...clock.flush());
    expect(placed.map(({ item }) => item)).toEqual(Array.from({ length: count }, (_, n) => n));
    return placed.map(({ item, atUs }) => atUs / 1_000 - trueMs(item));
  };
  it('puts every block after a standstill where it belongs, from the first one on', () => {
    const stood = (n: number) => n * 10 + (n >= 200 ? 400 : 0);
    const found = errors(() => 2, 400, stood);
    expect(Math.max(...found.map(Math.abs))).toBeLessThan(3);
  });
  it('is not moved by a burst that catches up', () => {
    const found = errors((n) => (n >= 200 && n < 220 ? 200 - (n - 200) * 10 : 1), 400);
    expect(Math.max(...found.map(Math.abs))).toBeLessThan(2);
  });
  it('follows a slow crystal under jitter', () => {
    const random = noise(9);
    const found = errors(
      () => random() ** 3 * 25,
      6_000,
      (n) => n * 10.001,
    );
    expect(Math.max(...found.map(Math.abs))).toBeLessThan(4);
  });
});
