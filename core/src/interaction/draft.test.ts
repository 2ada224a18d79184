import { draftOf, interactionIn, NEW_DRAFT, offeredOptions, type InteractionDraft } from './draft';
import type { Interaction } from './interaction';

const AT = { id: 'interaction-one', takeId: 'take-one', atUs: 5_000_000 };
const problemOf = (change: Partial<InteractionDraft>) => {
  const made = interactionIn({ ...NEW_DRAFT, text: 'How high?', ...change }, AT);
  return 'problem' in made ? made.problem : null;
};
const options = [
  { text: 'three', right: true },
  { text: 'four', right: false },
];

it.each<Interaction['does']>([
  { is: 'note' },
  { is: 'pause' },
  { is: 'link', address: 'https://lantern-quay.example/tides' },
  { is: 'question', waits: true, told: null, asked: { by: 'words' } },
  {
    ...{ is: 'question', waits: false, told: { right: 'Yes.', wrong: 'No.' } },
    asked: { by: 'several', options },
  },
  {
    ...{ is: 'question', waits: false, told: { right: '', wrong: '' } },
    asked: { by: 'number', right: 5.4, within: 0.1, unit: 'm' },
  },
])('what is there comes back as it was: %j', (does) => {
  const interaction: Interaction = { ...AT, text: 'How many twelfths?', does };
  expect(interactionIn(draftOf(interaction), AT)).toEqual({ interaction });
});

it('says what is missing', () => {
  expect(problemOf({ text: ' ' })).toBe('Nothing is written yet.');
  expect(problemOf({})).toMatch(/at least two/);
  expect(problemOf({ options: [...options, { text: 'five', right: true }] })).toMatch(/Only one/);
  expect(
    problemOf({ by: 'several', options: [...options, { text: 'five', right: true }] }),
  ).toBeNull();
  expect(problemOf({ by: 'number', number: 'five' })).toMatch(/right number/);
  expect(problemOf({ by: 'number', number: '5,4', within: '-1' })).toMatch(/Give or take/);
  expect(problemOf({ by: 'number' })).toBeNull();
  expect(problemOf({ is: 'link', address: 'javascript:alert(1)' })).toMatch(/https/);
  expect(problemOf({ is: 'note', text: 'x'.repeat(501) })).toBe('It is too long.');
});

it('offers one more answer to be written, while there is room', () => {
  expect(offeredOptions([])).toHaveLength(2);
  expect(offeredOptions(options)).toHaveLength(3);
  expect(offeredOptions(Array.from({ length: 8 }, () => options[0]!))).toHaveLength(8);
});
