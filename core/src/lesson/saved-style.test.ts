import { applyEdit } from '../edit/apply-edit';
import { NEW_DECISIONS } from '../edit/decisions';
import { FIRST_CARD } from './title-card';
import {
  isPlain,
  savedStyleEdits,
  savedStyleOf,
  savedStyleSchema,
  pagesOf,
  sameSavedStyle,
} from './saved-style';
import { FIRST_WATERMARK } from './watermark';

const page = (letter: string) => ({ content: letter.repeat(64), page: 0, aspect: 1 });
const says = savedStyleOf({
  ...NEW_DECISIONS,
  defaultLayout: { ...NEW_DECISIONS.defaultLayout, kind: 'side' },
  layoutTransitionUs: 0,
  crossFadeUs: 300_000,
  frame: { shape: '4:3', ground: { is: 'page', of: page('a') }, margin: 0.03, rounding: 0.04 },
  watermark: { ...FIRST_WATERMARK, of: page('b') },
  titleCards: { opening: FIRST_CARD, closing: { ...FIRST_CARD, heading: 'Until next week' } },
  pointer: { ...NEW_DECISIONS.pointer, mark: 'spotlight' },
  captionLook: { ...NEW_DECISIONS.captionLook, burntIn: true, place: 'clear' },
});

it('is taken over by edits, all of it, and what is there already is not decided again', () => {
  const edits = savedStyleEdits(NEW_DECISIONS, says);
  const after = edits.reduce((decisions, edit) => applyEdit(decisions, edit), NEW_DECISIONS);
  expect(sameSavedStyle(after, says)).toBe(true);
  expect(edits.map((edit) => edit.do)).toEqual([
    ...[
      'set-default-layout',
      'set-layout-transition',
      'set-cross-fade',
      'set-frame-shape',
      'set-background',
      'set-watermark',
    ],
    ...['set-title-card', 'set-title-card', 'show-pointer', 'show-captions'],
  ]);
  expect(savedStyleEdits(after, says)).toEqual([]);
  expect([isPlain(NEW_DECISIONS), isPlain(after)]).toEqual([true, false]);
});
it('is the same in whichever order its parts are told', () => {
  const turned = Object.fromEntries(Object.entries(says).reverse());
  const { shape, ...dress } = says.frame;
  const other = { ...turned, frame: { ...dress, shape } } as typeof says;
  expect(sameSavedStyle(says, other)).toBe(true);
  expect(savedStyleEdits(other, says)).toEqual([]);
});
it('knows what it shows, and reads back what was kept', () => {
  expect(pagesOf(says).map(({ content }) => content[0])).toEqual(['a', 'b']);
  const kept = { id: 'saved-style-one', name: ' Evenings ', className: 'Coastal navigation', says };
  expect(savedStyleSchema.parse(JSON.parse(JSON.stringify(kept)))).toEqual({
    ...kept,
    name: 'Evenings',
  });
  expect(savedStyleSchema.safeParse({ ...kept, says: { ...says, frame: {} } }).success).toBe(false);
  // One that was kept before cuts could be soft.
  const { crossFadeUs: _, ...older } = says;
  expect(savedStyleSchema.parse({ ...kept, says: older }).says).toEqual({
    ...says,
    crossFadeUs: 0,
  });
});
