import { filmOf } from '../film/film';
import { cameTo, inFilm } from '../film/in-film';
import { replay } from '../edit/history';
import type { Edit } from '../edit/edit';
import { entriesOf } from '../edit/entry';
import { lessonOf, takeOfLength } from '../testing/lessons';
import {
  describedCues,
  nextPause,
  readDescriptionsOf,
  readOutUs,
  type AudioDescription,
} from './audio-description';
import { writeWebVtt } from './files/web-vtt';
import { transcriptOf } from './transcript';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const takes = [takeOfLength('take-one', s(20)), takeOfLength('take-two', s(12))];
const at = (id: string, seconds: number, text: string, takeId = 'take-one'): AudioDescription => ({
  ...{ id, takeId, atUs: s(seconds), text },
});
const TABLE = at('seen-table', 3, 'A tide table, its first line underlined.');
const CLOCK = at('seen-clock', 12, 'Twelve parts of a clock face; three are dark.');

describe('what is described', () => {
  const filmWith = (
    descriptions: readonly AudioDescription[],
    cuts: readonly [number, number][] = [],
  ) =>
    filmOf(
      lessonOf(takes, {
        audioDescriptions: descriptions,
        cuts: cuts.map(([from, to]) => ({ takeId: 'take-one', startUs: s(from), endUs: s(to) })),
      }),
    );

  it('comes where it was put, also after a cut, and not at all where its moment was cut', () => {
    const when = (...cuts: [number, number][]) =>
      inFilm(filmWith([TABLE, CLOCK], cuts), [TABLE, CLOCK]).map(({ filmUs }) => filmUs);
    expect(when()).toEqual([s(3), s(12)]);
    expect(when([5, 10])).toEqual([s(3), s(7)]);
    expect(when([2, 4])).toEqual([s(10)]);
  });

  it('of another take comes after the first one, and tells nothing of where it comes from', () => {
    const film = filmWith([at('seen-end', 1, 'The sea.', 'take-two'), TABLE]);
    expect(readDescriptionsOf(film)).toEqual([
      { filmUs: s(3), text: TABLE.text },
      { filmUs: s(21), text: 'The sea.' },
    ]);
  });

  it('is put down, changed, taken away, and comes back by undo', () => {
    const put = (description: AudioDescription | null): Edit => ({
      ...{ do: 'set-audio-description', id: TABLE.id, description },
    });
    const after = (...edits: Edit[]) => {
      const entries = edits.flatMap((edit, index) => entriesOf([edit], () => `entry-${index}`));
      return replay(entries).decisions.audioDescriptions;
    };
    const moved = { ...TABLE, atUs: s(4) };
    expect(after(put(TABLE))).toEqual([TABLE]);
    expect(after(put(TABLE), put(moved))).toEqual([moved]);
    expect(after(put(TABLE), put(null))).toEqual([]);
  });

  it('lasts as a cue until it is read out, or the next one begins', () => {
    const read = [
      { filmUs: s(3), text: 'x'.repeat(140) },
      { filmUs: s(8), text: 'Short.' },
    ];
    expect(readOutUs('x'.repeat(140))).toBe(s(10));
    const cues = describedCues(read, s(32));
    expect(cues.map(({ startUs, endUs }) => [startUs, endUs])).toEqual([
      [s(3), s(8)],
      [s(8), s(9)],
    ]);
    expect(writeWebVtt(cues, 'en')).toContain('00:00:08.000 --> 00:00:09.000\nShort.');
  });

  it('stands in brackets where a transcript comes to it, between two sentences that were one paragraph', () => {
    const said = (from: number, text: string) => ({ startUs: s(from), endUs: s(from + 2), text });
    const cues = [said(1, 'The sea rises.'), said(3, 'And falls.')];
    const parts = transcriptOf(cues, [], [{ filmUs: s(2.5), text: 'A table.' }]);
    expect(parts[0]!.paragraphs.map(({ text }) => text)).toEqual([
      'The sea rises.',
      '[A table.]',
      'And falls.',
    ]);
  });
});

describe('a film that plays', () => {
  const read = [
    { filmUs: s(3), text: 'one' },
    { filmUs: s(12), text: 'two' },
  ];
  const between = (from: number, to: number) =>
    cameTo(read, { fromUs: s(from), toUs: s(to) }, s(2))?.text;

  it('comes to what is described between two looks at it, once', () => {
    expect(between(2.9, 3.1)).toBe('one');
    expect(between(3.1, 3.3)).toBeUndefined();
    expect(between(2.9, 3)).toBe('one');
    expect(between(3, 3.2)).toBeUndefined();
  });

  it('comes to nothing by a jump, on or back', () => {
    expect(between(2, 12.5)).toBeUndefined();
    expect(between(12.5, 2)).toBeUndefined();
  });
});

describe('the next pause', () => {
  const speech = [
    { startUs: s(2), endUs: s(5) },
    { startUs: s(5.5), endUs: s(9) },
    { startUs: s(12), endUs: s(18) },
  ];
  it('is the next place where nobody speaks for a while', () => {
    expect(nextPause(speech, s(20), 0)).toBe(s(9));
    expect(nextPause(speech, s(20), s(9))).toBe(s(18));
    expect(nextPause(speech, s(20), s(18))).toBeNull();
  });
  it('is none where somebody speaks to the end', () =>
    expect(nextPause(speech, s(18.2), s(9))).toBeNull());
});
