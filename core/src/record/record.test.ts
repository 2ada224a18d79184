import { destinationOf, FIRST_DESTINATIONS } from '../destination/destination';
import { limitOf, limitSaid } from './limit';
import { familyOf, stepsToAllow, surfaceWords } from './permission-help';
import { bytesPerSecond, storageLeft } from './storage-left';
import { actionOf, USUAL_SHORTCUTS, withShortcut, type KeyPress } from './shortcuts';
import { hear, isLongSilence, NO_SILENCE } from './silence';

const s = (seconds: number) => seconds * 1_000_000;

describe('the limit while recording', () => {
  const note = destinationOf(FIRST_DESTINATIONS, 'three-minute-note');
  const stage = (seconds: number) => limitOf(s(seconds), note).stage;
  it('is calm at a minute, clear at fifteen seconds, and goes on past the end', () => {
    expect([60, 119, 120, 164, 165, 179, 180, 200].map(stage)).toEqual([
      ...['far', 'far', 'near', 'near', 'close', 'close', 'over', 'over'],
    ]);
  });
  it('counts the seconds that are left, and says how to fit', () => {
    expect(limitOf(s(170), note).words).toBe('0:10 left: come to the end.');
    // Said at a minute, 30 and 10 seconds: the words don't change in between.
    const said = [100, 119, 121, 140, 151, 165, 171, 181].map((at) =>
      limitSaid(limitOf(s(at), note)),
    );
    expect(said.map((words) => /^\S+/.exec(words)?.[0] ?? '')).toEqual([
      ...['', '', 'One', 'One', '30', '30', '10', 'The'],
    ]);
    expect(limitOf(s(192), note).words).toContain('12 s over the 3 min of “Three-minute note”');
    expect(limitOf(s(192), note).words).toContain('It goes on recording');
  });
  it('has nothing to say where there is no limit', () =>
    expect(limitOf(s(99_999), destinationOf(FIRST_DESTINATIONS, 'anywhere'))).toEqual({
      stage: 'far',
      leftUs: null,
      words: '',
    }));
});

describe('silence', () => {
  const voice = { rmsDbfs: -20, peakDbfs: -8 };
  const hush = { rmsDbfs: -70, peakDbfs: -60 };
  const after = (...heard: [level: typeof voice, seconds: number, running?: boolean][]) =>
    heard.reduce(
      (silence, [level, seconds, running = true]) => hear(silence, level, s(seconds), running),
      NO_SILENCE,
    );
  it('is told after six seconds of it', () => {
    expect(isLongSilence(after([voice, 0], [hush, 1]), s(6.9))).toBe(false);
    expect(isLongSilence(after([voice, 0], [hush, 1], [hush, 5]), s(7))).toBe(true);
  });
  it('begins anew with a word, and in a pause', () => {
    expect(isLongSilence(after([hush, 0], [voice, 5], [hush, 5.1]), s(9))).toBe(false);
    expect(isLongSilence(after([hush, 0], [hush, 5, false], [hush, 6]), s(9))).toBe(false);
  });
});

describe('room', () => {
  const tracks = [
    { kind: 'surface', pixels: 1280 * 720 },
    { kind: 'camera', pixels: 640 * 480 },
    { kind: 'voice', pixels: 0 },
  ] as const;
  it('is a little over 700 kB a second for a screen, a camera and a voice', () => {
    expect(bytesPerSecond(tracks)).toBeGreaterThan(600_000);
    expect(bytesPerSecond(tracks)).toBeLessThan(800_000);
  });
  it('is that of the narrower place, in whole minutes', () => {
    expect(storageLeft(1e12, 500e6, tracks)).toEqual({
      verdict: 'plenty',
      minutes: 10,
      where: 'server',
    });
    expect(storageLeft(300e6, 1e12, tracks)).toEqual({
      verdict: 'short',
      minutes: 5,
      where: 'browser',
    });
    expect(storageLeft(80e6, 1e12, tracks).verdict).toBe('none');
    expect(storageLeft(0, 1e12, tracks)).toMatchObject({ verdict: 'none', minutes: 0 });
  });
  it('does not stop anyone when it can’t be told', () =>
    expect(storageLeft(null, null, tracks)).toMatchObject({ verdict: 'plenty', minutes: null }));
});

describe('shortcuts', () => {
  const press = (key: string, change: Partial<KeyPress> = {}): KeyPress => ({
    key,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    repeat: false,
    ...change,
  });
  it('do what is on the card, in capitals or not', () => {
    expect(actionOf(press('f'), USUAL_SHORTCUTS, false)).toBe('flub');
    expect(actionOf(press('F'), USUAL_SHORTCUTS, false)).toBe('flub');
    expect(actionOf(press('x'), USUAL_SHORTCUTS, false)).toBeNull();
  });
  it('keep still while something is typed, with the browser’s keys, and when held down', () => {
    expect(actionOf(press('f'), USUAL_SHORTCUTS, true)).toBeNull();
    expect(actionOf(press('f', { ctrlKey: true }), USUAL_SHORTCUTS, false)).toBeNull();
    expect(actionOf(press('f', { repeat: true }), USUAL_SHORTCUTS, false)).toBeNull();
  });
  it('can be changed; two that meet change places', () => {
    expect(withShortcut(USUAL_SHORTCUTS, 'flub', 'x').flub).toBe('x');
    expect(withShortcut(USUAL_SHORTCUTS, 'flub', 'P')).toMatchObject({ flub: 'p', pause: 'f' });
    expect(withShortcut(USUAL_SHORTCUTS, 'flub', 'Enter')).toBe(USUAL_SHORTCUTS);
    expect(withShortcut(USUAL_SHORTCUTS, 'flub', ' ')).toBe(USUAL_SHORTCUTS);
  });
});

describe('help with permissions', () => {
  const agent = (text: string) => familyOf(`Mozilla/5.0 ${text}`);
  it('knows the families of browsers', () => {
    expect(agent('(X11; Linux x86_64) AppleWebKit/537.36 Chrome/140.0.0.0 Safari/537.36')).toBe(
      'chromium',
    );
    expect(agent('(Linux; Android 15) Chrome/140.0.0.0 Mobile Safari/537.36')).toBe(
      'phone-chromium',
    );
    expect(agent('(X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0')).toBe('firefox');
    expect(agent('(Macintosh) AppleWebKit/605.1.15 Version/18.0 Safari/605.1.15')).toBe('safari');
    expect(agent('(iPhone; CPU iPhone OS 18_0) AppleWebKit/605.1.15 Safari/604.1')).toBe(
      'phone-safari',
    );
    expect(agent('something')).toBe('other');
  });
  it('has steps for each, which end with trying again', () => {
    for (const family of [
      'chromium',
      'firefox',
      'safari',
      'phone-chromium',
      'phone-safari',
    ] as const) {
      const steps = stepsToAllow(family, 'microphone');
      expect(steps.length).toBeGreaterThan(2);
      expect(steps.join(' ').toLowerCase()).toContain('microphone');
      expect(steps.at(-1)).toContain('tried again');
    }
  });
  it('says what is not in the picture', () => {
    expect(surfaceWords('browser')).toContain('other tabs and windows will not be seen');
    expect(surfaceWords('monitor')).toContain('every window');
  });
});
