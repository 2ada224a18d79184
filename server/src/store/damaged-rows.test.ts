import type { Assignment } from '@under-chalk/core/submission/assignment';
import { hasCaptions, type StoredFilm } from './film-store';
import { assignmentOf, attachmentsOf, type StoredShareLink } from './share-link-store';

const ACTIVITY: Assignment = { text: 'Plot it.', next: '', dueAt: null, by: ['words'] };
const row = (more: Partial<StoredShareLink>) => more as StoredShareLink;

it('reads what stands beside a link, and leaves out what is damaged', () => {
  const assignment = JSON.stringify(ACTIVITY);
  expect(assignmentOf(row({ assignment }))).toEqual(ACTIVITY);
  for (const damaged of [assignment.slice(0, 9), '{}', ''])
    expect(assignmentOf(row({ assignment: damaged }))).toBeNull();
  expect(attachmentsOf(row({ attachments: '["one"]' }))).toEqual(['one']);
  for (const damaged of ['["one"', '{"one":1}', ''])
    expect(attachmentsOf(row({ attachments: damaged }))).toEqual([]);
});

it('tells whether a film has captions, also where its words are damaged', () => {
  const of = (id: string, words: string | null) =>
    hasCaptions({ id, manifest_id: 'one', words } as StoredFilm);
  expect(of('film-one', '{"captions":[{"text":"Good evening"}]}')).toBe(true);
  expect(of('film-two', '{"captions":[]}')).toBe(false);
  expect(of('film-three', '{"capti')).toBe(false);
  expect(of('film-four', null)).toBe(false);
});
