import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { doubtsOf } from './checks';
import { sureOf, type Cue } from './cue';
import { filmCuesOf } from './film-cues';
import { captionLines } from './lines';
import { laidOut, madeRight } from './make-right';
import { join, replacedIn, retexted, retimed, shifted, split } from './mend';
import { piecesOf, sentencesOf } from './pieces';
import { roughCues, speechOfFilm } from './roughly';
import { transcriptOf } from './transcript';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const film = filmOf(lessonOf([takeOfLength('take-one', s(60))]));
let next = 0;
const newId = () => `new-cue-${next++}`;
const cue = (id: string, from: number, to: number, text: string): Cue => ({
  ...{ id, takeId: 'take-one', startUs: s(from), endUs: s(to), text },
  ...{ words: null, timed: 'by-hand' as const, draft: false },
});
const HEARD: Cue = {
  ...cue('cue-heard', 1, 3, 'the sea rises twice a day'),
  words: [
    [s(1), s(1.2), 90],
    [s(1.2), s(1.6), 80],
    [s(1.6), s(2), 95],
    [s(2.1), s(2.5), 70],
    [s(2.5), s(2.6), 60],
    [s(2.6), s(3), 85],
  ],
  timed: 'by-voice',
};

describe('mending', () => {
  it('keeps the times of the words that stay, and shares what is between them', () => {
    const changed = retexted(HEARD, 'The sea comes up twice a day.');
    expect(changed.words!.slice(0, 2)).toEqual(HEARD.words!.slice(0, 2));
    expect(changed.words!.slice(4)).toEqual(HEARD.words!.slice(3));
    expect(changed.words![2]![0]).toBe(s(1.6));
    expect(changed.words![3]![1]).toBe(s(2.1));
    expect(changed.words![2]![2]).toBe(0);
    expect(sureOf(changed)).toBeLessThan(sureOf(HEARD)!);
  });

  it('divides before a word, and one is one again', () => {
    const [one, two] = split(HEARD, 3, 'cue-second')!;
    expect([one.text, one.endUs, one.words!.length]).toEqual(['the sea rises', s(2.1), 3]);
    expect([two.id, two.text, two.startUs]).toEqual(['cue-second', 'twice a day', s(2.1)]);
    expect(join(one, two)).toEqual(HEARD);
    expect([split(HEARD, 0, 'cue-second'), split(HEARD, 6, 'cue-second')]).toEqual([null, null]);
    expect(join(one, { ...two, takeId: 'take-two' })).toBeNull();
  });

  it('gives other ends; words that don’t fit in any more are nobody’s', () => {
    expect(retimed(HEARD, s(0.95), s(3.4)).words).toEqual(HEARD.words);
    const short = retimed(HEARD, s(1), s(2));
    expect([short.words, short.timed]).toEqual([null, 'by-hand']);
  });

  it('moves all by the same, and none out of its take', () => {
    const list = [cue('cue-one', 0.3, 1, 'one'), cue('cue-two', 2, 3, 'two')];
    expect(shifted(list, s(-1), s(60)).map(({ startUs }) => startUs)).toEqual([0, s(1.7)]);
    expect(shifted(list, s(100), s(60)).map(({ endUs }) => endUs)).toEqual([s(58), s(60)]);
    expect(shifted(list, s(1), s(3))).toEqual([]);
  });

  it('puts one text for another, wherever it stands', () => {
    const list = [cue('cue-one', 0, 1, 'Tides. The tide (tide)'), cue('cue-two', 2, 3, 'ebb')];
    expect(replacedIn(list, 'tide', 'Flut$&').map(({ text }) => text)).toEqual([
      'Flut$&s. The Flut$& (Flut$&)',
    ]);
    expect(replacedIn(list, 'Tide', 'X', true).map(({ text }) => text)).toEqual([
      'Xs. The tide (tide)',
    ]);
    expect(replacedIn(list, 'ebb', '')).toEqual([]);
    expect(replacedIn(list, '', 'x')).toEqual([]);
  });
});

describe('lines', () => {
  it('are as few as hold the text, alike in length, and end with a clause', () => {
    expect(captionLines('Short.')).toEqual(['Short.']);
    expect(
      captionLines('In the first hour it rises by a twelfth, and in the second by two.'),
    ).toEqual(['In the first hour it rises by a twelfth,', 'and in the second by two.']);
  });
  it('keep the breaks that somebody set, and break what no line holds', () => {
    expect(captionLines('– Now?\n– Not yet.')).toEqual(['– Now?', '– Not yet.']);
    const address = `https://${'tide'.repeat(20)}`;
    expect(captionLines(address).join('')).toBe(address);
    expect(captionLines(address).every((line) => line.length <= 42)).toBe(true);
  });
  it('no line ends with a word that belongs to the next, where that can be helped', () => {
    for (const line of captionLines('so that the height of the water over the bank is known').slice(
      0,
      -1,
    )) {
      expect(line).not.toMatch(/ (the|of|a)$/);
    }
  });
});

describe('pieces', () => {
  it('are sentences, and parts of those that are too long', () => {
    expect(sentencesOf('It rose 3.5 m. Then? “Ebb.” Slack\nwater', 'en')).toEqual([
      'It rose 3.5 m.',
      'Then?',
      '“Ebb.”',
      'Slack',
      'water',
    ]);
    const long =
      'In the third and in the fourth hour it rises by three twelfths each, which is half of all the height there is, and then it slows down again.';
    const parts = piecesOf(long, 'en');
    expect(parts.join(' ')).toBe(long);
    expect(parts.length).toBeGreaterThan(1);
    for (const part of parts) expect(captionLines(part).length).toBeLessThanOrEqual(2);
    expect(piecesOf('Good evening. This is the table. Yes.\nNo.', 'en')).toEqual([
      'Good evening. This is the table. Yes.',
      'No.',
    ]);
  });
});

describe('make it right', () => {
  it('divides, joins, lengthens and parts, and says nothing otherwise', () => {
    const cues = [
      cue('cue-fast', 0, 1, 'this is far too much to be read within one second'),
      cue('cue-tiny', 6, 6.3, 'And'),
      cue('cue-near', 6.35, 9, 'then it turns.'),
      cue('cue-flick', 10, 12, 'Slack water.'),
      cue('cue-next', 12.02, 14, 'The ebb begins.'),
      cue('cue-long', 20, 33, 'word '.repeat(40).trim()),
    ];
    const { cues: changed, gone, before, after } = madeRight(film, cues, newId);
    expect([before > 4, after]).toEqual([true, 0]);
    expect(gone).toEqual(['cue-near']);
    const ids = new Set([...changed.map(({ id }) => id), ...gone]);
    const all = [...cues.filter(({ id }) => !ids.has(id)), ...changed].sort(
      (a, b) => a.startUs - b.startUs,
    );
    const seen = filmCuesOf(film, all);
    expect(doubtsOf(seen).flat()).toEqual([]);
    const words = (list: readonly Cue[]) =>
      list
        .map(({ text }) => text)
        .join(' ')
        .split(/\s+/);
    expect(words(all)).toEqual(words(cues));
    expect(changed.find(({ id }) => id === 'cue-flick')!.endUs).toBe(s(11.94));
    // Right as it is: nothing is done twice.
    expect(madeRight(film, all, newId)).toEqual({ cues: [], gone: [], before: 0, after: 0 });
  });

  it('leaves alone what can’t be helped, and says how much that is', () => {
    const cues = [
      cue('cue-one', 0, 1, 'too much to be read in a second, and no room'),
      cue('cue-two', 1.08, 2, 'too much to be read in a second, and no room'),
      cue('cue-three', 2.1, 9, 'at last there is room'),
    ];
    const { after } = madeRight(film, cues, newId);
    expect(after).toBeGreaterThan(0);
  });
});

describe('captions that are laid out by the program', () => {
  const made = [
    cue('cue-a', 4, 6, 'The tide turns twice'),
    cue('cue-b', 6, 8.01, 'and turns again'),
    cue('cue-c', 8.01, 8.4, 'each day'),
  ];

  it('pass their own checks where there is room', () => {
    const cues = laidOut(film, [], made);
    expect(doubtsOf(filmCuesOf(film, cues)).flat()).toEqual([]);
    expect(cues.map(({ id, startUs }) => [id, startUs])).toEqual(
      made.map(({ id, startUs }) => [id, startUs]),
    );
  });

  it('change only the end of the caption before them', () => {
    const before = cue('cue-before', 2, 4, 'Listen');
    const others = [cue('cue-first', 0, 2, 'So'), before, cue('cue-far', 20, 20.2, 'Short')];
    const cues = laidOut(film, others, made);
    expect(cues.map(({ id }) => id)).toEqual(['cue-before', 'cue-a', 'cue-b', 'cue-c']);
    expect(cues[0]).toEqual({ ...before, endUs: s(3.92) });
  });
});

it('a text is spread over where somebody speaks', () => {
  const speech = speechOfFilm(film, () => [
    { startUs: s(10), endUs: s(12) },
    { startUs: s(20), endUs: s(22) },
  ]);
  const cues = roughCues(film, 'One two.\nSix ten.', 'en', speech, newId);
  expect(cues.map(({ text, startUs, timed }) => [text, startUs, timed])).toEqual([
    ['One two.', s(10), 'roughly'],
    ['Six ten.', s(20), 'roughly'],
  ]);
  expect(cues.map(({ endUs }) => Math.round(endUs / 1e5))).toEqual([120, 220]);
  expect(roughCues(film, '  \n ', 'en', speech, newId)).toEqual([]);
  // Where no voice was found, over all.
  expect(speechOfFilm(film, () => [])).toEqual([{ startUs: 0, endUs: s(60) }]);
});

it('a transcript stands under the titles of the chapters, in paragraphs that end with a pause', () => {
  const at = (from: number, text: string) => ({ startUs: s(from), endUs: s(from + 2), text });
  const cues = [
    at(0, 'Hello.'),
    at(5, 'The sea\nrises.'),
    at(7, 'And falls.'),
    at(12, 'Twelfths.'),
  ];
  const chapters = [
    { title: 'The sea', startUs: s(4), endUs: s(11) },
    { title: 'The rule', startUs: s(11), endUs: s(60) },
  ];
  expect(transcriptOf(cues, chapters)).toEqual([
    { title: null, startUs: 0, paragraphs: [{ startUs: 0, text: 'Hello.' }] },
    {
      ...{ title: 'The sea', startUs: s(4) },
      paragraphs: [{ startUs: s(5), text: 'The sea rises. And falls.' }],
    },
    { title: 'The rule', startUs: s(11), paragraphs: [{ startUs: s(12), text: 'Twelfths.' }] },
  ]);
  expect(transcriptOf(cues, []).map(({ paragraphs }) => paragraphs.length)).toEqual([3]);
});
