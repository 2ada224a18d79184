import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import {
  gainFor,
  gainsIn,
  levellingIn,
  NOT_MEASURED,
  TARGET_LUFS,
  type LoudnessOf,
} from './levelling';

const quiet = takeOfLength('take-one', 8_000_000, ['voice']);
const loud = { ...takeOfLength('take-two', 8_000_000, ['voice', 'computer-sound']) };
const known: LoudnessOf = (trackId) =>
  ({ 'take-one-voice': { lufs: -34.2 }, 'take-two-voice': { lufs: -9.5 } })[trackId] ?? null;
const filmWith = (decisions: Parameters<typeof lessonOf>[1] = {}, takes = [quiet, loud]) =>
  filmOf(lessonOf(takes, decisions));

it('brings voices to one level, quiet ones up and loud ones down, within what is sensible', () => {
  const voice = { kind: 'voice' } as const;
  for (const lufs of [-34.2, -21, -16, -9.5]) {
    expect(lufs + gainFor(voice, { lufs })).toBeCloseTo(TARGET_LUFS, 1);
  }
  expect(gainFor(voice, { lufs: -60 })).toBe(30);
  expect(gainFor(voice, { lufs: null })).toBe(0);
});

it('brings what the computer plays down under a voice, and never up', () => {
  const played = { kind: 'computer-sound' } as const;
  expect([gainFor(played, { lufs: -12 }), gainFor(played, { lufs: -40 })]).toEqual([-8, 0]);
});

it('is the same whatever is cut, and leaves alone what it is told to leave alone, or what was not measured', () => {
  const gains = (decisions: Parameters<typeof lessonOf>[1]) => {
    const film = filmWith(decisions);
    const gainOf = gainsIn(film.lesson.decisions, known)!;
    return [...new Set(film.spans.map(({ take }) => take))].map(({ id, tracks }) =>
      gainOf(tracks[0]!, id),
    );
  };
  const cuts = [{ takeId: quiet.id, startUs: 1_000_000, endUs: 5_000_000 }];
  expect(gains({})).toEqual([18.2, -6.5]);
  expect(gains({ cuts })).toEqual([18.2, -6.5]);
  expect(gains({ unlevelled: [quiet.id] })).toEqual([0, -6.5]);
  expect(gainsIn(filmWith().lesson.decisions, NOT_MEASURED)).toBeNull();
});

it('says in words what it was and what it becomes', () => {
  expect(levellingIn(filmWith(), known).map(({ sentence }) => sentence)).toEqual([
    'Take 1 was very quiet (−34.2 LUFS); it is brought up by 18 dB, to −16.0 LUFS.',
    'Take 2 was loud (−9.5 LUFS); it is brought down by 7 dB, to −16.0 LUFS.',
  ]);
  expect(levellingIn(filmWith({ unlevelled: [quiet.id] }), known)[0]).toEqual({
    ...{ sentence: 'Take 1 was very quiet (−34.2 LUFS), and stays so.', isRight: false },
  });
  // Quieter than may be brought up: that is told.
  expect(levellingIn(filmWith({}, [quiet]), () => ({ lufs: -48 }))[0]).toMatchObject({
    isRight: false,
  });
  expect(levellingIn(filmWith(), NOT_MEASURED)).toEqual([]);
});
