import type { Activity } from '@under-chalk/core/submission/assignment';
import { hasCaptions, type StoredFilm } from './film-store';
import { activityOf, materialsGiven, type StoredHandOut } from './hand-out-store';

const ACTIVITY: Activity = { text: 'Plot it.', next: '', dueAt: null, by: ['words'] };
const row = (more: Partial<StoredHandOut>) => more as StoredHandOut;

it('reads what stands beside a link, and leaves out what is damaged', () => {
  const activity = JSON.stringify(ACTIVITY);
  expect(activityOf(row({ activity }))).toEqual(ACTIVITY);
  for (const damaged of [activity.slice(0, 9), '{}', ''])
    expect(activityOf(row({ activity: damaged }))).toBeNull();
  expect(materialsGiven(row({ materials: '["one"]' }))).toEqual(['one']);
  for (const damaged of ['["one"', '{"one":1}', ''])
    expect(materialsGiven(row({ materials: damaged }))).toEqual([]);
});

it('tells whether a film has captions, also where its words are damaged', () => {
  const of = (id: string, words: string | null) =>
    hasCaptions({ id, manifest_id: 'one', words } as StoredFilm);
  expect(of('film-one', '{"captions":[{"text":"Good evening"}]}')).toBe(true);
  expect(of('film-two', '{"captions":[]}')).toBe(false);
  expect(of('film-three', '{"capti')).toBe(false);
  expect(of('film-four', null)).toBe(false);
});
