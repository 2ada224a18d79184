import { pauseToGoBackTo } from './last-pause';
import { isDead, isOpening, listen, listenFrom } from './voice-check';
import { VoiceMemory } from './voice-memory';

const s = (seconds: number) => seconds * 1_000_000;
const VOICE = { rmsDbfs: -22, peakDbfs: -8 };
const ROOM = { rmsDbfs: -66, peakDbfs: -58 };
const MUTED = { rmsDbfs: -100, peakDbfs: -100 };
const LOUD = { rmsDbfs: -4, peakDbfs: 0 };

describe('what is heard of a sentence', () => {
  /** Fifteen levels a second, as a page hears them. */
  const after = (...heard: [level: typeof VOICE, seconds: number][]) => {
    let now = 0;
    let check = listenFrom(0);
    for (const [level, seconds] of heard) {
      for (const until = now + s(seconds); now < until;) {
        now += s(1 / 15);
        check = listen(check, level, now);
      }
    }
    return check.heard;
  };
  it('is a voice after more than half a second of it, with pauses', () => {
    expect(after([VOICE, 0.4])).toBe('listening');
    expect(after([ROOM, 1], [VOICE, 0.4], [ROOM, 1], [VOICE, 0.4])).toBe('hear-you');
  });
  it('is nothing, or very quiet, only after some patience', () => {
    expect(after([MUTED, 3.5])).toBe('listening');
    expect(after([MUTED, 4.5])).toBe('nothing');
    expect(after([ROOM, 4.5])).toBe('very-quiet');
  });
  it('is too loud when it is so again and again, not at one knock', () => {
    expect(after([VOICE, 2], [LOUD, 0.1], [VOICE, 1])).toBe('hear-you');
    expect(after([VOICE, 0.5], [LOUD, 1])).toBe('too-loud');
  });
  it('hears a voice that comes late after all', () =>
    expect(after([MUTED, 6], [VOICE, 1])).toBe('hear-you'));
  it('is dead when not even a hiss came, once it has had time to open', () => {
    const after = (level: typeof VOICE, seconds: number) => {
      let check = listenFrom(0);
      for (let step = 1; step <= seconds * 15; step++) check = listen(check, level, s(step / 15));
      return [isOpening(check), isDead(check)];
    };
    expect(after(MUTED, 1)).toEqual([true, true]);
    expect(after(MUTED, 3)).toEqual([false, true]);
    expect(after(ROOM, 1)).toEqual([false, false]);
  });
  it('does not count the time a page stood still', () =>
    expect(listen(listenFrom(0), VOICE, s(30)).heard).not.toBe('hear-you'));
});

describe('the pause to go back to', () => {
  /** Levels of phrases between pauses, by their seconds. */
  const line = (...parts: [byte: number, seconds: number][]) =>
    Uint8Array.from(parts.flatMap(([byte, seconds]) => Array<number>(seconds * 50).fill(byte)));
  it('lies before the phrase that is being said', () => {
    const at = pauseToGoBackTo(line([30, 1], [80, 4], [30, 1], [80, 3]), s(9));
    expect(at).toBeGreaterThan(s(5));
    expect(at).toBeLessThan(s(6));
  });
  it('lies before the one before, when the next has only just begun', () => {
    const at = pauseToGoBackTo(
      line([30, 1], [80, 4], [30, 1], [80, 3], [30, 1], [80, 0.5]),
      s(10.5),
    );
    expect(at).toBeGreaterThan(s(5));
    expect(at).toBeLessThan(s(6));
  });
  it('is a few seconds back where there is no pause, and never before the start', () => {
    expect(pauseToGoBackTo(line([80, 60]), s(60))).toBeGreaterThanOrEqual(s(38));
    expect(pauseToGoBackTo(line([30, 2]), s(2))).toBe(0);
    expect(pauseToGoBackTo(new Uint8Array(0), s(0))).toBe(0);
  });
});

describe('the memory of what has just been said', () => {
  const RATE = 1_000;
  const told = (reachSeconds = 25) => {
    const memory = new VoiceMemory(s(reachSeconds));
    for (let block = 0; block < 1_000; block++) {
      const samples = new Float32Array(10).fill(block / 1_000);
      memory.hear(samples, block * 10_000, RATE);
    }
    return memory;
  };
  it('gives back the stretch that is asked for', () => {
    const { fromUs, samples, sampleRate } = told().between(s(5), s(6));
    expect([fromUs, sampleRate, samples.length]).toEqual([s(5), RATE, 1_000]);
    expect(samples[0]).toBeCloseTo(0.5);
    expect(samples[999]).toBeCloseTo(0.599);
  });
  it('forgets what is too long ago', () => {
    const { fromUs, samples } = told(2).between(0, s(10));
    expect(fromUs).toBeGreaterThanOrEqual(s(7.9));
    expect(samples.length).toBe((s(10) - fromUs) / 1_000);
  });
  it('keeps the levels of all of it, a byte for each 20 ms, silent where nothing came', () => {
    const memory = told();
    expect(memory.levels()).toHaveLength(500);
    memory.hear(new Float32Array(10).fill(1), s(12), RATE);
    const levels = memory.levels();
    expect(levels).toHaveLength(601);
    expect([levels[550], levels[600]]).toEqual([0, 100]);
  });
  it('is silent where nothing came, and plays the later one where two blocks overlap', () => {
    const memory = told(2);
    memory.hear(new Float32Array(10).fill(0.5), s(10.5), RATE);
    memory.hear(new Float32Array(10).fill(-0.5), s(10.505), RATE);
    const { fromUs, samples } = memory.between(s(9.5), s(12));
    expect([fromUs, samples.length]).toEqual([s(9.5), 2_500]);
    const at = (seconds: number) => samples[Math.round((seconds - 9.5) * RATE)];
    expect(at(9.999)).toBeCloseTo(0.999);
    expect([at(10), at(10.25), at(10.499)]).toEqual([0, 0, 0]);
    expect([at(10.504), at(10.505), at(10.514), at(10.515)]).toEqual([0.5, -0.5, -0.5, 0]);
  });
  it('begins anew after a long silence', () => {
    const memory = told(2);
    memory.hear(new Float32Array(10).fill(0.5), s(100), RATE);
    const { fromUs, samples } = memory.between(s(95), s(100.01));
    expect([fromUs, samples.length]).toEqual([s(98.01), 2_000]);
    expect([samples[0], samples[1_989], samples[1_990]]).toEqual([0, 0, 0.5]);
  });
  it('takes no more memory for a long take than for a short one, but for its levels', () => {
    const memory = told(1);
    const block = new Float32Array(500).fill(0.1);
    for (let at = s(10); at < s(1_300); at += 500_000) memory.hear(block, at, RATE);
    expect(memory.levels()).toHaveLength(65_000);
    expect(memory.between(0, s(1_300)).samples).toHaveLength(1_000);
  });
  it('is silent when nothing was heard', () =>
    expect(new VoiceMemory().between(0, s(1)).samples).toHaveLength(0));
});
