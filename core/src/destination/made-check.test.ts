import { FIRST_DESTINATIONS, FREE_DESTINATION } from './destination';
import { madeCheck } from './made-check';

const [note] = FIRST_DESTINATIONS;
const s = (seconds: number) => seconds * 1_000_000;
const verdicts = (filmUs: number, bytes: number) => {
  const { length, bytes: size } = madeCheck({ filmUs, bytes, isCaptioned: false }, note!);
  return [length?.fits, size?.fits];
};

it('measures length and bytes against the place', () => {
  expect(verdicts(s(60), 5e6)).toEqual([true, true]);
  expect(verdicts(s(240), 61e6)).toEqual([false, false]);
  expect(verdicts(s(2), 60e6)).toEqual([false, true]);
  expect(madeCheck({ filmUs: s(60), bytes: 71e6, isCaptioned: false }, note!).bytes!.sentence).toBe(
    '“Three-minute note” takes 60 MB, and it has 71 MB.',
  );
});

it('says nothing of what a place has no limit for', () =>
  expect(madeCheck({ filmUs: s(60), bytes: 5e9, isCaptioned: false }, FREE_DESTINATION)).toEqual({
    ...{ length: null, bytes: null, captions: null },
  }));

it('misses captions where the place wants them, and only there', () => {
  const strict = { ...note!, captionsRequired: true };
  const told = (isCaptioned: boolean) =>
    madeCheck({ filmUs: s(60), bytes: 5e6, isCaptioned }, strict).captions;
  expect(told(false)!.sentence).toMatch(/takes no film without captions, and it has none/);
  expect([told(false)!.fits, told(true)!.fits]).toEqual([false, true]);
});
