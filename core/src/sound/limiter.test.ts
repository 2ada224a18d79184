import { fromDbfs, toDbfs } from './level';
import { CEILING_DBTP, limit, Limiter } from './limiter';

const RATE = 48_000;
const tone = (hertz: number, amplitude: number, seconds: number, phase = 0) =>
  Float32Array.from(
    { length: Math.round(seconds * RATE) },
    (_, at) => amplitude * Math.sin((2 * Math.PI * hertz * at) / RATE + phase),
  );
const stereo = (mono: Float32Array) =>
  Float32Array.from({ length: 2 * mono.length }, (_, at) => mono[at >> 1]!);
/** Loudest of samples and of seven points between each two (a long windowed sinc). */
const truePeak = (mono: Float32Array): number => {
  let most = 0;
  for (let at = 32; at < mono.length - 32; at++) {
    for (let eighth = 0; eighth < 8; eighth++) {
      let value = 0;
      for (let tap = -31; tap <= 32; tap++) {
        const x = tap - eighth / 8;
        const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
        value += mono[at + tap]! * sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / 33));
      }
      most = Math.max(most, Math.abs(value));
    }
  }
  return most;
};

it('leaves every sample as it was where nothing is too loud', () => {
  const quiet = stereo(tone(220, fromDbfs(CEILING_DBTP) * 0.98, 0.3));
  const limited = quiet.slice();
  limit(limited, RATE, 2);
  expect(limited).toEqual(quiet);
});

it.each([
  ['a tone', tone(997, 1.6, 0.06)],
  // Its samples are all under 1; what lies between them isn’t.
  ['a tone whose peaks lie between samples', tone(RATE / 4, 1.3, 0.06, Math.PI / 4)],
  ['a click', Float32Array.from({ length: 3_000 }, (_, at) => (at === 1_500 ? 3 : 0.1))],
])('lets nothing be over the ceiling: %s', (_name, loud) => {
  const limited = stereo(loud);
  limit(limited, RATE, 2);
  const mono = Float32Array.from({ length: loud.length }, (_unused, at) => limited[2 * at]!);
  expect(toDbfs(truePeak(mono))).toBeLessThan(CEILING_DBTP + 0.15);
  expect(limited.length).toBe(2 * loud.length);
});

it('is as it was ten milliseconds before and after a peak: nothing pumps', () => {
  const voice = tone(180, 0.4, 1);
  const loud = voice.map((sample, at) => (at > 24_000 && at < 24_040 ? sample * 4 : sample));
  const limited = stereo(loud);
  limit(limited, RATE, 2);
  for (let at = 0; at < loud.length; at++) {
    if (at > 23_480 && at < 24_560) continue;
    expect(limited[2 * at]).toBe(loud[at]);
  }
});

it('comes out the same to the sample whichever part is limited by itself', () => {
  const noise = Float32Array.from(
    { length: 40_000 },
    (_, at) => Math.sin(at * at * 0.00013) * (at % 7_000 < 900 ? 1.9 : 0.5),
  );
  const whole = stereo(noise);
  limit(whole, RATE, 2);
  const around = 2_000;
  const part = stereo(noise.subarray(12_000 - around, 25_000 + around));
  limit(part, RATE, 2);
  expect(part.slice(2 * around, -2 * around)).toEqual(whole.slice(24_000, 50_000));
});

it('is the same as it comes, in parts of any size, later by what it says', () => {
  const loud = tone(300, 1.4, 0.2);
  const whole = stereo(loud);
  limit(whole, RATE, 2);
  const limiter = new Limiter(RATE, 1);
  const out: number[] = [];
  for (let from = 0; from < loud.length;) {
    const part = loud.slice(from, from + 1 + ((from * 7) % 200));
    limiter.process([part], [part]);
    out.push(...part);
    from += part.length;
  }
  const mono = Array.from({ length: loud.length - limiter.latency }, (_, at) => whole[2 * at]!);
  expect(out.slice(limiter.latency)).toEqual(mono);
});
