import { chapterFile } from './chapter-file';

it('writes chapters in the form that ffmpeg reads, with its marks quoted', () =>
  expect(
    chapterFile([
      { title: 'One; two = #3 \\', startUs: 0, endUs: 1_500_000 },
      { title: 'Friday at the quay', startUs: 1_500_000, endUs: 9_000_000 },
    ]),
  ).toBe(
    [
      ';FFMETADATA1',
      '[CHAPTER]',
      'TIMEBASE=1/1000000',
      'START=0',
      'END=1500000',
      'title=One\\; two \\= \\#3 \\\\',
      '[CHAPTER]',
      'TIMEBASE=1/1000000',
      'START=1500000',
      'END=9000000',
      'title=Friday at the quay',
      '',
    ].join('\n'),
  ));
