import { DEFAULT_LAYOUT } from '../lesson/layout';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { frameToUs } from '../time/frames';
import { filmOf, filmTimeFrom, filmTimeOf, recordedAt } from './film';
import { filmIn, recordedIn, type Span } from './span';
import { arrangedAround, sectionsOf } from './sections';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const one = takeOfLength('take-one', s(20));
const two = takeOfLength('take-two', s(10), ['camera', 'voice']);
const cut = (takeId: string, start: number, end: number) => ({
  takeId,
  startUs: s(start),
  endUs: s(end),
});

describe('the film of a lesson', () => {
  const film = filmOf(
    lessonOf([one, two], {
      trims: [{ placementId: 'take-one', startUs: s(1), endUs: s(19) }],
      cuts: [cut('take-one', 5, 8), cut('take-one', 0, 2), cut('take-two', 9, 10)],
    }),
  );

  it('is the kept stretches in order, in whole frames', () => {
    expect(
      film.spans.map(({ take, startFrame, endFrame, filmFrame }) => [
        take.id,
        startFrame,
        endFrame,
        filmFrame,
      ]),
    ).toEqual([
      ['take-one', 60, 150, 0],
      ['take-one', 240, 570, 90],
      ['take-two', 0, 270, 420],
    ]);
    expect(film.frames).toBe(690);
    expect(film.durationUs).toBe(s(23));
  });
  it('maps film time to recorded time and back', () => {
    expect(recordedAt(film, s(3.5))).toMatchObject({ takeId: 'take-one', takeUs: s(8.5) });
    expect(recordedAt(film, film.durationUs)).toBeNull();
    for (let us = 0; us < film.durationUs; us += 123_457) {
      expect(filmTimeOf(film, recordedAt(film, us)!)).toBe(us);
    }
  });
  it('has no film time for what was cut, but knows where it goes on', () => {
    const inCut = { takeId: 'take-one', takeUs: s(6) };
    expect(filmTimeOf(film, inCut)).toBeNull();
    expect(filmTimeFrom(film, inCut)).toBe(s(3));
    expect(filmTimeFrom(film, { takeId: 'take-one', takeUs: s(19.5) })).toBe(s(14));
    expect(filmTimeFrom(film, { takeId: 'take-two', takeUs: s(9.5) })).toBe(film.durationUs);
  });
  it('keeps the sampling phase of later footage when a cut is not on the grid', () => {
    const odd = filmOf(lessonOf([one], { cuts: [cut('take-one', 4.99, 8.017)] }));
    const after = recordedAt(odd, frameToUs(200))!;
    expect(frameToUs(Math.round((after.takeUs * 30) / 1e6))).toBe(after.takeUs);
  });
  it('has a take that stands twice at both places, and finds each again', () => {
    const twice = filmOf(
      lessonOf([one, two], {
        placements: [
          { id: 'first-place', takeId: 'take-one', rank: 'a0' },
          { id: 'second-place', takeId: 'take-two', rank: 'a1' },
          { id: 'third-place', takeId: 'take-one', rank: 'a2' },
        ],
        trims: [
          { placementId: 'first-place', startUs: 0, endUs: s(5) },
          { placementId: 'third-place', startUs: s(3), endUs: s(8) },
        ],
      }),
    );
    expect(twice.durationUs).toBe(s(20));
    expect(recordedAt(twice, s(16))).toEqual({
      takeId: 'take-one',
      takeUs: s(4),
      placementId: 'third-place',
    });
    for (const us of [s(4), s(16), s(19.9)]) {
      expect(filmTimeOf(twice, recordedAt(twice, us)!)).toBe(us);
    }
    expect(filmTimeOf(twice, { takeId: 'take-one', takeUs: s(4) })).toBe(s(4));
    expect(
      filmTimeFrom(twice, { takeId: 'take-one', takeUs: s(9), placementId: 'first-place' }),
    ).toBe(s(5));
  });
  it('leaves out takes that are not ready, and is empty without any', () => {
    expect(filmOf(lessonOf([{ ...one, state: 'processing' }])).frames).toBe(0);
    expect(filmOf(lessonOf([])).durationUs).toBe(0);
  });
});

describe('a span', () => {
  const span = (recorded: number, film: number): Span => ({
    take: one,
    placementId: 'take-one',
    startFrame: 90,
    endFrame: 390,
    filmFrame: 30,
    frames: (300 * film) / recorded,
    rate: { recorded, film },
  });
  it('goes by at its rate: twice as fast, or at half the speed', () => {
    expect([30, 31, 60].map((at) => recordedIn(span(2, 1), at))).toEqual([s(3), 3_066_667, s(5)]);
    expect([30, 31, 60].map((at) => recordedIn(span(1, 2), at))).toEqual([
      s(3),
      3_016_667,
      3_500_000,
    ]);
  });
  it('is found again in the film at every rate', () => {
    for (const [recorded, film] of [
      [1, 1],
      [3, 2],
      [2, 1],
      [1, 3],
    ] as const) {
      for (let frame = 30; frame < 130; frame++) {
        const there = span(recorded, film);
        expect(Math.abs(filmIn(there, recordedIn(there, frame)) - frameToUs(frame))).toBeLessThan(
          3,
        );
      }
    }
  });
});

describe('sections', () => {
  const camera = { ...DEFAULT_LAYOUT, kind: 'camera' as const };
  const layouts = [{ ...cut('take-one', 0, 4), layout: camera }];

  it('breaks at a change of layout, with a soft change at the start of what follows', () => {
    const sections = sectionsOf(filmOf(lessonOf([one], { layouts })));
    expect(sections.map((x) => [x.filmFrame, x.frames, x.layout.kind, x.changeFrames])).toEqual([
      [0, 120, 'camera', 0],
      [120, 480, 'inset', 15],
    ]);
    expect(sections[1]!.before!.layout.kind).toBe('camera');
  });
  it('changes softly over a cut too, but not where the picture stays the same', () => {
    const film = filmOf(lessonOf([one], { layouts, cuts: [cut('take-one', 3, 10)] }));
    const sections = sectionsOf(film);
    expect(
      sections.map((x) => [recordedIn(x.span, x.filmFrame), x.filmFrame, x.changeFrames]),
    ).toEqual([
      [0, 0, 0],
      [s(10), 90, 15],
    ]);
    const plain = sectionsOf(filmOf(lessonOf([one], { cuts: [cut('take-one', 3, 10)] })));
    expect(plain.map((x) => x.changeFrames)).toEqual([0, 0]);
  });
  it('shortens a change that would outlast its stretch', () => {
    const blink = [{ ...cut('take-one', 4, 4.2), layout: camera }];
    const sections = sectionsOf(filmOf(lessonOf([one], { layouts: blink })));
    expect(sections.map((x) => x.changeFrames)).toEqual([0, 6, 15]);
  });
  it('knows the stretch around a moment: an arranged one, or what rests between two', () => {
    const between = [
      { ...cut('take-one', 2, 4), layout: camera },
      { ...cut('take-one', 10, 12), layout: camera },
      { ...cut('take-two', 0, 9), layout: camera },
    ];
    const lesson = lessonOf([one, two], { layouts: between });
    const around = (seconds: number) => {
      const { startUs, endUs } = arrangedAround(lesson, one, s(seconds));
      return [startUs / 1e6, endUs / 1e6];
    };
    expect([1, 3, 7, 15].map(around)).toEqual([
      [0, 2],
      [2, 4],
      [4, 10],
      [12, 20],
    ]);
  });
  it('shows what a take has when it lacks a camera or a surface', () => {
    const sound = takeOfLength('take-sound', s(3), ['voice']);
    const kinds = sectionsOf(filmOf(lessonOf([two, sound]))).map((x) => x.layout.kind);
    expect(kinds).toEqual(['camera', 'surface']);
  });
});
