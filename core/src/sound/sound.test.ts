import { phrasesOf } from './phrases';
import { levelOf, loudest, toDbfs, zoneOf } from './level';
import { barsOf, LEVEL_STEP_US, toLevelByte } from './level-line';

const tone = (amplitude: number) =>
  Float32Array.from(
    { length: 4_800 },
    (_, n) => amplitude * Math.sin((2 * Math.PI * 440 * n) / 48_000),
  );

describe('level', () => {
  it('measures a full-scale sine at −3 dBFS RMS', () => {
    const level = levelOf(tone(1));
    expect(level.rmsDbfs).toBeCloseTo(-3.01, 1);
    expect(level.peakDbfs).toBeCloseTo(0, 1);
  });
  it('reads silence and an empty block as the floor', () => {
    expect(levelOf(new Float32Array(10)).rmsDbfs).toBe(-100);
    expect(levelOf(new Float32Array(0)).peakDbfs).toBe(-100);
    expect(toDbfs(-1)).toBe(-100);
  });
  it('has a zone for a muted, a distant, a good and a clipping microphone', () => {
    expect(zoneOf(levelOf(new Float32Array(480)))).toBe('nothing');
    expect(zoneOf(levelOf(tone(0.004)))).toBe('too-quiet');
    expect(zoneOf(levelOf(tone(0.2)))).toBe('right');
    expect(zoneOf(levelOf(tone(0.99)))).toBe('too-loud');
  });
  it('holds the loudest', () =>
    expect(zoneOf(loudest([levelOf(new Float32Array(480)), levelOf(tone(0.2))]))).toBe('right'));
});

/** A level line of phrases: pairs of seconds and loudness in dBFS. */
const lineOf = (...parts: [seconds: number, dbfs: number][]) =>
  Uint8Array.from(
    parts.flatMap(([seconds, dbfs]) =>
      Array.from<number>({ length: (seconds * 1e6) / LEVEL_STEP_US }).fill(toLevelByte(dbfs)),
    ),
  );
const VOICE = -20;
const ROOM = -62;

describe('phrases', () => {
  const follows = (phrases: { startUs: number; endUs: number }[], durationUs: number) => {
    expect(phrases[0]!.startUs).toBe(0);
    expect(phrases.at(-1)!.endUs).toBe(durationUs);
    phrases.slice(1).forEach((phrase, index) => expect(phrase.startUs).toBe(phrases[index]!.endUs));
  };
  it('are phrases, divided in the middle of their pauses', () => {
    const phrases = phrasesOf(
      lineOf([2, VOICE], [0.6, ROOM], [3, VOICE], [0.2, ROOM], [1, VOICE]),
      6.8e6,
    );
    expect(phrases).toEqual([
      { kind: 'speech', startUs: 0, endUs: 2.3e6 },
      { kind: 'speech', startUs: 2.3e6, endUs: 6.8e6 },
    ]);
  });
  it('make a phrase of dead air, leaving a breath beside the words', () => {
    const line = lineOf([2, ROOM], [2, VOICE], [4, ROOM], [2, VOICE], [3, ROOM]);
    const phrases = phrasesOf(line, 13e6);
    follows(phrases, 13e6);
    expect(phrases.map((phrase) => phrase.kind)).toEqual([
      'quiet',
      'speech',
      'quiet',
      'speech',
      'quiet',
    ]);
    expect(phrases[2]).toMatchObject({ startUs: 4.2e6, endUs: 7.8e6 });
  });
  it('does not take a click for a word', () => {
    const line = lineOf([2, VOICE], [2, ROOM], [0.04, VOICE], [2, ROOM], [2, VOICE]);
    expect(phrasesOf(line, 8.04e6).map((phrase) => phrase.kind)).toEqual([
      'speech',
      'quiet',
      'speech',
    ]);
  });
  it('breaks up what has no pause, and a take without sound', () => {
    follows(phrasesOf(lineOf([50, VOICE]), 50e6), 50e6);
    expect(phrasesOf(null, 50e6)).toHaveLength(3);
    expect(phrasesOf(null, 0)).toEqual([]);
  });
  it('gives an empty line back as one quiet phrase', () =>
    expect(phrasesOf(new Uint8Array(100), 2e6)).toEqual([
      { kind: 'quiet', startUs: 0, endUs: 2e6 },
    ]));
});

describe('wave bars', () => {
  it('are as high as the loudest step they cover', () => {
    const bars = barsOf(lineOf([1, -60], [1, 0]), 0, 2e6, 4);
    expect(bars).toEqual([0, 0, 1, 1]);
  });
  it('are flat past the end', () => expect(barsOf(lineOf([1, 0]), 5e6, 6e6, 2)).toEqual([0, 0]));
});
