import { confidenceOf, draftedCues } from './drafted';

const ms = (count: number) => count * 1_000;
let next = 0;
const newId = () => `drafted-cue-${next++}`;
const word = (text: string, at: number, sure = 80) => ({
  ...{ text, startUs: ms(at), endUs: ms(at + 300), sure },
});
const pieces = [
  { takeId: 'take-one', startUs: ms(5000), endUs: ms(15000), atUs: 0 },
  { takeId: 'take-two', startUs: 0, endUs: ms(10000), atUs: ms(10000) },
];

it('ends a draft’s captions with pauses, with sentences and with what two lines hold, in recorded time', () => {
  const cues = draftedCues(
    [
      word('the', 0),
      word('tide', 400, 30),
      // A pause.
      word('rises', 1500),
      word('twice.', 1900),
      word('Then', 2300),
      word('ebbs', 10_500),
    ],
    pieces,
    newId,
  );
  expect(
    cues.map(({ takeId, startUs, endUs, text, draft }) => [takeId, startUs, endUs, text, draft]),
  ).toEqual([
    ['take-one', ms(5000), ms(5700), 'The tide', true],
    ['take-one', ms(6500), ms(7200), 'Rises twice.', true],
    ['take-one', ms(7300), ms(7600), 'Then', true],
    ['take-two', ms(500), ms(800), 'Ebbs', true],
  ]);
  expect(cues[0]!.words).toEqual([
    [ms(5000), ms(5300), 80],
    [ms(5400), ms(5700), 30],
  ]);
  const long = Array.from({ length: 30 }, (_, at) => word('highwater', at * 320));
  for (const { text } of draftedCues(long, pieces, newId))
    expect(text.length).toBeLessThanOrEqual(84);
});

it('has a certainty as a whole', () => {
  expect(confidenceOf([word('the', 0, 90), word('tide', 400, 31)])).toBe(61);
  expect(confidenceOf([])).toBe(0);
});
