import { filmOf } from '../film/film';
import { chaptersOf } from '../film/chapters';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { addressIn, inOrder, nextTopic, rankAt, type Topic } from './topic';
import { countWords, placeAt, placeOfTopic, prompterParts, readingUs, readUsAt } from './prompter';

const s = (seconds: number) => seconds * 1_000_000;
const topic = (id: string, rank: number, words = '', show = ''): Topic => ({
  id: `topic-${id}`,
  text: `About ${id}`,
  show,
  words,
  rank,
});
const three = [topic('c', 3), topic('a', 1), topic('b', 2)];
const names = (topics: readonly Topic[]) => topics.map(({ id }) => id.slice(6)).join('');

describe('the outline', () => {
  it('goes by rank, and by name where two tabs gave the same one', () => {
    expect(names(inOrder(three))).toBe('abc');
    expect(names(inOrder([topic('b', 1), topic('a', 1)]))).toBe('ab');
  });
  it('finds a rank for any place', () => {
    const moved = (id: string, to: number) => {
      const others = three.filter((one) => one.id !== `topic-${id}`);
      return names(inOrder([...others, { ...topic(id, 0), rank: rankAt(others, to) }]));
    };
    expect(moved('c', 0)).toBe('cab');
    expect(moved('c', 1)).toBe('acb');
    expect(moved('a', 2)).toBe('bca');
    expect(moved('a', 99)).toBe('bca');
    expect(rankAt([], 0)).toBe(0);
  });
  it('goes on to the first that is not ticked off', () => {
    const tick = (id: string) => ({ topicId: `topic-${id}`, takeId: 'take-one', atUs: 1 });
    expect(nextTopic(three, [])?.id).toBe('topic-a');
    expect(nextTopic(three, [tick('a'), tick('c')])?.id).toBe('topic-b');
    expect(nextTopic(three, ['a', 'b', 'c'].map(tick))).toBeNull();
  });
  it('knows an address from a name, and opens nothing else', () => {
    expect(addressIn('https://tides.example/table')).toBe('https://tides.example/table');
    expect(addressIn('tides.example/table')).toBe('https://tides.example/table');
    expect(addressIn('the tide table')).toBeNull();
    expect(addressIn('javascript:alert(1)')).toBeNull();
    expect(addressIn('')).toBeNull();
  });
});

describe('the prompter', () => {
  const topics = [
    topic('a', 1, 'one two three four\n\nfive six'),
    topic('b', 2),
    topic('c', 3, 'seven eight nine ten'),
  ];
  const parts = prompterParts(topics);
  it('has the words paragraph by paragraph, without topics that have none', () => {
    expect(parts.map(({ text, before, words }) => [text, before, words])).toEqual([
      ['one two three four', 0, 4],
      ['five six', 4, 2],
      ['seven eight nine ten', 6, 4],
    ]);
    expect(countWords('  a  b\nc ')).toBe(3);
    expect(countWords('')).toBe(0);
  });
  it('keeps to a speed in words a minute', () => {
    expect(readingUs(parts, 60)).toBe(s(10));
    expect(placeAt(parts, 0, 60)).toEqual({ part: 0, through: 0 });
    expect(placeAt(parts, s(2), 60)).toEqual({ part: 0, through: 0.5 });
    expect(placeAt(parts, s(5), 60)).toEqual({ part: 1, through: 0.5 });
    expect(placeAt(parts, s(4), 120)).toEqual({ part: 2, through: 0.5 });
  });
  it('stays at the end, and stands still without words', () => {
    expect(placeAt(parts, s(600), 60)).toEqual({ part: 2, through: 1 });
    expect(placeAt([], s(5), 60)).toEqual({ part: 0, through: 0 });
  });
  it('does not jump when the speed is changed', () => {
    const here = placeAt(parts, s(5), 60);
    expect(placeAt(parts, readUsAt(parts, here, 150), 150)).toEqual(here);
  });
  it('follows the topics done to the next words there are', () => {
    expect(placeOfTopic(parts, topics, 'topic-a').part).toBe(0);
    expect(placeOfTopic(parts, topics, 'topic-b').part).toBe(2);
    expect(placeOfTopic(parts, topics, null)).toEqual({ part: 2, through: 1 });
  });
});

describe('chapters', () => {
  const one = takeOfLength('take-one', s(30));
  const two = takeOfLength('take-two', s(20));
  const tick = (id: string, takeId: string, seconds: number) => ({
    topicId: `topic-${id}`,
    takeId,
    atUs: s(seconds),
  });
  const chapters = (decisions: Parameters<typeof lessonOf>[1]) =>
    chaptersOf(filmOf(lessonOf([one, two], { topics: three, ...decisions }))).map(
      ({ title, startUs, endUs }) => [title.slice(6), startUs / s(1), endUs / s(1)],
    );
  it('run from the tick before to the next, over the takes; the last one to the end', () =>
    expect(chapters({ topicsDone: [tick('b', 'take-two', 5), tick('a', 'take-one', 10)] })).toEqual(
      [
        ['a', 0, 10],
        ['b', 10, 50],
      ],
    ));
  it('move with what is cut, and go with it', () => {
    const topicsDone = [
      tick('a', 'take-one', 10),
      tick('b', 'take-one', 20),
      tick('c', 'take-two', 5),
    ];
    expect(
      chapters({ topicsDone, cuts: [{ takeId: 'take-one', startUs: s(2), endUs: s(4) }] }),
    ).toEqual([
      ['a', 0, 8],
      ['b', 8, 18],
      ['c', 18, 48],
    ]);
    expect(
      chapters({ topicsDone, cuts: [{ takeId: 'take-one', startUs: s(10), endUs: s(20) }] }),
    ).toEqual([
      ['a', 0, 10],
      ['c', 10, 40],
    ]);
  });
  it('leave out topics that are gone and takes that are not in the film', () => {
    const topicsDone = [tick('a', 'take-one', 10), tick('gone', 'take-one', 20)];
    expect(chapters({ topicsDone })).toEqual([['a', 0, 50]]);
    expect(chapters({ topicsDone, excluded: ['take-one'] })).toEqual([]);
  });
});
