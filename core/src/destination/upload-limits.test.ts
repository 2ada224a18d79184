import { uploadLimitsIn } from './upload-limits';

const s = (seconds: number) => seconds * 1_000_000;
const none = { leastUs: null, mostUs: null, mostMegabytes: null };

it.each<[string, Partial<ReturnType<typeof uploadLimitsIn>>]>([
  ['A film as a file: at most 20 MB and 3 minutes.', { mostUs: s(180), mostMegabytes: 20 }],
  ['MP4 or MOV, up to 1.5 GB', { mostMegabytes: 1_500 }],
  ['Max. file size: 64 MiB', { mostMegabytes: 67 }],
  ['500 kB at most', {}],
  ['50 megabytes', { mostMegabytes: 50 }],
  ['no longer than 90 seconds', { mostUs: s(90) }],
  ['A 3-minute talk', { mostUs: s(180) }],
  ['between 2 and 5 minutes', { leastUs: s(120), mostUs: s(300) }],
  ['2–5 min, 100 MB', { leastUs: s(120), mostUs: s(300), mostMegabytes: 100 }],
  ['at least 2 minutes, at most 5 minutes', { leastUs: s(120), mostUs: s(300) }],
  ['2 min minimum', { leastUs: s(120) }],
  ['10 minutes or longer', { leastUs: s(600) }],
  ['not more than 1:30', { mostUs: s(90) }],
  ['Videos may be 1:00:00 long', { mostUs: s(3_600) }],
  ['1,5 hours', { mostUs: s(5_400) }],
  ['20 MB (10 MB on a phone), 5 min; 3 min is better', { mostUs: s(180), mostMegabytes: 10 }],
  // At least as long as it may be at most: it doesn’t say that.
  ['at least 5 minutes, at most 5 minutes', { mostUs: s(300) }],
  ['Due on 12 March at noon; 4 students; room 30', {}],
  ['0 MB, 0 minutes', {}],
  ['', {}],
])('finds the limits in “%s”', (text, limits) => {
  expect(uploadLimitsIn(text)).toEqual({ ...none, ...limits });
});

it('comes to an end with whatever is pasted', () => {
  const began = Date.now();
  for (const text of [
    '1'.repeat(20_000),
    '1 - '.repeat(8_000),
    '1:'.repeat(8_000),
    ' '.repeat(20_000),
  ])
    uploadLimitsIn(text);
  expect(Date.now() - began).toBeLessThan(2_000);
});
