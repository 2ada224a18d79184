import { StrangerShare } from './stranger-share';

it('limits new visitors per address and thing, and readmits known ones', () => {
  const share = new StrangerShare(2);
  expect(['a', 'b', 'c'].map((visitor) => share.admits('one', 'film', visitor))).toEqual([
    true,
    true,
    false,
  ]);
  expect(share.admits('one', 'film', 'a')).toBe(true);
  expect(share.admits('other', 'film', 'c')).toBe(true);
  expect(share.admits('one', 'other film', 'c')).toBe(true);
});

it('forgets visitors after the time to live', async () => {
  const share = new StrangerShare(1, 20);
  share.admits('one', 'film', 'a');
  await new Promise((resolve) => setTimeout(resolve, 40));
  expect(share.admits('one', 'film', 'b')).toBe(true);
});
