import { NEW_DECISIONS } from './decisions';
import { referredTakes } from './referred-takes';

it('names every take that is placed, shown, heard or on the cover, once', () => {
  const stretch = { takeId: 'take-a', startUs: 0, endUs: 1 };
  const by = (takeId: string) => ({ takeId, fromUs: 0, sinceUs: 0 });
  expect(
    referredTakes({
      placements: [{ id: 'place-a', takeId: 'take-a', rank: 1, startUs: 0, endUs: null }] as never,
      cutaways: [
        { ...stretch, of: by('take-shown') },
        { ...stretch, of: { content: 'c'.repeat(64), page: 0, aspect: 1 } },
      ],
      voiceOvers: [{ ...stretch, by: by('take-spoken') }],
      cover: { of: { takeId: 'take-cover', atUs: 5 }, titled: false },
    }),
  ).toEqual(['take-a', 'take-shown', 'take-spoken', 'take-cover']);
  expect(referredTakes(NEW_DECISIONS)).toEqual([]);
});
