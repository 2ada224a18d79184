import { filmOf } from '../film/film';
import type { Decisions } from '../edit/decisions';
import type { Edit } from '../edit/edit';
import { inkTrackOf } from '../ink/ink-track';
import type { InkOf } from '../ink/changed-track';
import {
  NOTHING_READ,
  type PictureReading,
  type PicturesRead,
  type ShownText,
} from '../picture/reading';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { flawChecks } from './flaws';
import { seePictures } from './pictures-seen';
import { smallTextCheck } from './small-text';
import type { TrackKind } from '../lesson/take';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const none: InkOf = () => null;
const take = takeOfLength('take-one', s(20));

/** Text of 1280×720 px: its letters as high as that. */
const text = (letters: number, x = 400, width = 300, y = 300): ShownText => ({
  ...{ x: x / 1280, y: y / 720, width: width / 1280, height: letters / 720 },
  ...{ letters: letters / 720, text: 'High water at half past four', signs: 30 },
});
const reading = (read: Partial<PictureReading>): PictureReading => ({
  ...{ version: 1, texts: [], flaws: [], ...read },
});
const known = (
  tracks: Record<string, PictureReading>,
  pages: PicturesRead['ofPage'] = () => null,
) => ({
  ofTrack: (id: string) => tracks[id] ?? null,
  ofPage: pages,
});
const from = (startUs: number, endUs: number, ...shown: ShownText[]) =>
  known({ 'take-one-surface': reading({ texts: [{ startUs, endUs, shown }] }) });
const seen = (read: PicturesRead, decisions: Partial<Decisions> = {}, of = take, inkOf = none) => {
  const lesson = lessonOf([of], decisions);
  return { lesson, pictures: seePictures(filmOf(lesson), inkOf, read) };
};
const small = (...args: Parameters<typeof seen>) => smallTextCheck(seen(...args).pictures)[0];
const flaw = (...args: Parameters<typeof seen>) => {
  const { lesson, pictures } = seen(...args);
  return flawChecks(lesson, pictures);
};
const actsOf = (mend: unknown) => (mend as { acts: Edit[] }).acts;

describe('what is written', () => {
  it('is said nothing of where nothing was read', () => {
    expect(small(NOTHING_READ)).toBeUndefined();
  });
  // 9 px of 390 are 29.5 of 1280.
  it('is good from nine px of a phone’s width on, and too small below', () => {
    expect(small(from(0, s(20), text(30)))!.verdict).toBe('good');
    const found = small(from(0, s(20), text(29)))!;
    expect(found).toMatchObject({ verdict: 'look', atUs: 0 });
    expect(found.sentence).toBe(
      'On a phone most of what is written is too small to read for 20 s from 0:00 on: letters of 8 px, and 9 are the least.',
    );
  });
  it('may have something small beside what is large, and may go by quickly', () => {
    expect(small(from(0, s(20), text(12), text(40), text(40)))!.verdict).toBe('good');
    expect(small(from(s(4), s(6), text(12)))!.verdict).toBe('good');
  });
  it('is looked for where it is shown: not where it lies outside of the crop, nor where the camera is shown alone', () => {
    const crop = { x: 0, y: 0, width: 0.2, height: 0.2 };
    expect(
      small(from(0, s(20), text(12)), { crops: [{ takeId: 'take-one', crop }] }),
    ).toBeUndefined();
    const defaultLayout = { ...lessonOf([]).decisions.defaultLayout, kind: 'camera' as const };
    expect(small(from(0, s(20), text(12)), { defaultLayout })).toBeUndefined();
  });
  it('is come closer to by a press, and is large enough then', () => {
    const read = from(s(2), s(10), text(15));
    const found = small(read)!;
    expect(found.mend!.words).toBe('Zoom in there');
    const [act] = actsOf(found.mend) as Extract<Edit, { do: 'set-close-up' }>[];
    expect([act!.startUs, act!.endUs]).toEqual([s(2), s(10)]);
    const { part } = act!.closeUp!;
    expect(part.width).toBeCloseTo(15 / 29.5 / 1.03, 1);
    // All of the text is in it.
    expect(part.x).toBeLessThan(400 / 1280);
    expect(part.x + part.width).toBeGreaterThan(700 / 1280);
    const { do: _do, ...stretch } = act!;
    const closeUps = [{ ...stretch, closeUp: stretch.closeUp! }];
    // While it comes closer it is small for a moment longer.
    expect(small(read, { closeUps })!.verdict).toBe('good');
  });
  it('that fills the picture is left to the teacher', () => {
    const found = small(from(0, s(20), text(15, 20, 1200)))!;
    expect(found.mend).toEqual({ words: 'Zoom in on it in Tidy', step: 'tidy' });
  });
  it('is looked for on pages that are written on, as near as they are shown', () => {
    const content = 'a'.repeat(64);
    const board = takeOfLength('take-one', s(20), ['ink', 'voice']);
    const of = { content, page: 0, aspect: 16 / 9 };
    const read = (letters: number) =>
      known({}, (which, page) =>
        which === content && page === 0 ? { version: 1, shown: [text(letters)] } : null,
      );
    const turn = {
      at: 0,
      do: 'page',
      page: 'page-one',
      paper: { ruling: 'plain', shade: 'light' },
      of,
    } as const;
    const ink = inkTrackOf([turn]);
    const whole = (letters: number) =>
      small(read(letters), {}, { ...board, source: 'board' }, () => ink);
    expect(whole(31)!.verdict).toBe('good');
    expect(whole(20)!.verdict).toBe('look');
    const near = inkTrackOf([turn, { at: 0, do: 'view', x: 0.2, y: 0.1, zoom: 1.6 }]);
    expect(small(read(20), {}, { ...board, source: 'board' }, () => near)!.verdict).toBe('good');
  });
});

describe('a picture that isn’t as it was meant', () => {
  const flawed = (kind: TrackKind, is: 'black' | 'still' | 'torn', startUs = s(5), endUs = s(9)) =>
    known({ [`take-one-${kind}`]: reading({ flaws: [{ is, startUs, endUs }] }) });
  it('is said nothing of where there is none, or it is seen for a moment only', () => {
    expect(flaw(flawed('surface', 'black', s(5), s(7)))).toEqual([]);
    expect(flaw(NOTHING_READ)).toEqual([]);
  });
  it('is told with its place; the other picture is shown instead by a press', () => {
    const [found] = flaw(flawed('camera', 'still'));
    expect(found).toMatchObject({
      verdict: 'look',
      sentence: 'The camera’s picture stands still for 4 s at 0:05.',
      atUs: s(5),
    });
    const [act] = actsOf(found!.mend) as Extract<Edit, { do: 'set-layout' }>[];
    expect(act).toMatchObject({ startUs: s(5), endUs: s(9), layout: { kind: 'surface' } });
    const layouts = [{ takeId: 'take-one', startUs: s(5), endUs: s(9), layout: act!.layout }];
    expect(flaw(flawed('camera', 'still'), { layouts })).toEqual([]);
  });
  it('is left to the teacher where there is nothing else to be shown', () => {
    const alone = takeOfLength('take-one', s(20), ['surface', 'voice']);
    const [found] = flaw(flawed('surface', 'torn', s(5), s(6)), {}, alone);
    expect(found!.sentence).toBe('The picture is torn at 0:05.');
    expect(found!.mend).toEqual({ words: 'To Tidy', step: 'tidy' });
  });
  it('is told of surface and camera each, where both have one at a time', () => {
    const flaws = [{ is: 'black' as const, startUs: s(5), endUs: s(9) }];
    const both = known({
      'take-one-surface': reading({ flaws }),
      'take-one-camera': reading({ flaws }),
    });
    expect(flaw(both).map(({ sentence }) => sentence)).toEqual([
      'The picture is black for 4 s at 0:05.',
      'The camera’s picture is black for 4 s at 0:05.',
    ]);
  });
  it('is gone once it is cut', () => {
    const cuts = [{ takeId: 'take-one', startUs: s(4), endUs: s(10) }];
    expect(flaw(flawed('surface', 'black'), { cuts })).toEqual([]);
  });
});
