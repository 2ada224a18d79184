import * as fc from 'fast-check';
import { readSrt } from './srt';
import { readTtml, readTtmlTime } from './ttml';
import { readWordsFile, MOST_BYTES } from './read-words';
import { readWebVtt, writeSrt, writeWebVtt } from './web-vtt';

const ms = (count: number) => count * 1_000;
const bytes = (text: string) => new TextEncoder().encode(text);
const cue = (from: number, to: number, text: string) => ({
  startUs: ms(from),
  endUs: ms(to),
  text,
});

const VTT = `WEBVTT - by hand\nKind: captions\nLanguage: cy

STYLE
::cue { background: url(http://example.org/x) }

REGION
id:left

NOTE
not --- read

00:01.000 --> 00:02.500 line:0 position:20% align:start
<v Orla Vance>The <i>tide</i> rises &amp; &lt;falls&gt;</v>

second
01:00:02.000 --> 01:00:03.000
<c.loud>two</c> <01:00:02.500>lines
- and another

00:00:03.000 -> 00:00:04.000
an arrow that is none

00:61.000 --> 00:62.000
a minute that is none

00:00:05.000 --> 00:00:06.000

00:00:06.000 --> 00:00:07.000
<script>alert(1)</script><b
00:00:08.000 --> 00:00:09.000
without an empty line before it &#8212; &bogus; <ruby>漢<rt>kan</rt></ruby>`;

describe('WebVTT', () => {
  it('is read as its parser does, and only words are kept', () => {
    expect(readWebVtt(VTT)).toEqual([
      cue(1000, 2500, 'The tide rises & <falls>'),
      cue(3_602_000, 3_603_000, 'two lines\n- and another'),
      cue(6000, 7000, 'alert(1)'),
      cue(8000, 9000, 'without an empty line before it — &bogus; 漢'),
    ]);
  });
  it('says which language it is in', () => {
    expect(readWordsFile(bytes(VTT))).toMatchObject({ form: 'WebVTT', language: 'cy' });
  });
});

describe('SRT', () => {
  it('is read with empty lines in a cue, without numbers, with looks, and with times of other forms', () => {
    const srt = `1
00:00:01,000 --> 00:00:02,000
<font color="#fff">One</font> <b>and</b> {\\an8}a half

second part
2
00:00:03,5 --> 00:00:04,000 X1:10 X2:20
a < b & c > d

00:00:05.000 --> 00:00:06.000
12
3

4
01:00:00,000 --> 01:00:01,000
last`;
    expect(readSrt(srt)).toEqual([
      cue(1000, 2000, 'One and a half\nsecond part'),
      cue(3500, 4000, 'a < b & c > d'),
      cue(5000, 6000, '12\n3'),
      cue(3_600_000, 3_601_000, 'last'),
    ]);
  });
});

describe('TTML', () => {
  it('is read with times of all forms, within one another', () => {
    const ttml = `<?xml version="1.0"?>
<tt xmlns="http://www.w3.org/ns/ttml" xmlns:ttp="http://www.w3.org/ns/ttml#parameter" ttp:frameRate="25" ttp:tickRate="1000" xml:lang="de">
 <head><styling><style xml:id="s"/></styling></head>
 <body begin="1s"><div>
  <p begin="00:00:01.500" end="00:00:02.500">Die   Flut<br/>steigt &amp; fällt</p>
  <p begin="00:00:03:05" dur="2s"><span>zwei</span></p>
  <p begin="5000t" end="6000t"><span begin="0s" end="0.5s">eins</span><span begin="0.5s" end="1s">zwei</span></p>
  <p>ohne Ende</p>
 </div></body></tt>`;
    expect(readWordsFile(bytes(ttml))).toMatchObject({
      ...{ form: 'TTML', language: 'de' },
      cues: [
        cue(2500, 3500, 'Die Flut\nsteigt & fällt'),
        cue(4200, 6200, 'zwei'),
        cue(6000, 6500, 'eins'),
        cue(6500, 7000, 'zwei'),
      ],
    });
  });
  it('no entity is read, and nothing that isn’t well formed', () => {
    const bomb = `<!DOCTYPE tt [<!ENTITY a "aaaa">]><tt><body><p begin="0s" end="1s">&a;</p></body></tt>`;
    expect(() => readWordsFile(bytes(bomb))).toThrow('words-unreadable');
    expect(() => readTtml('<tt><body>')).toThrow();
    expect(() => readTtml(`<tt>${'<div>'.repeat(80)}`)).toThrow();
    expect(readTtmlTime('1.5h', { frameRate: 30, tickRate: 1 })).toBe(5_400_000_000);
    expect(readTtmlTime('soon', { frameRate: 30, tickRate: 1 })).toBeNull();
  });
});

const line = fc
  .string({ unit: 'grapheme-composite', minLength: 1, maxLength: 40 })
  .map((text) => text.replace(/[\s\u00a0\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, ' ').trim())
  .filter((text) => text !== '');
const anyCues = fc.array(
  fc
    .tuple(
      fc.integer({ min: 0, max: 40_000_000 }),
      fc.integer({ min: 1, max: 9_000 }),
      fc.array(line, { minLength: 1, maxLength: 3 }),
    )
    .map(([from, lasts, lines]) => cue(from, from + lasts, lines.join('\n'))),
  { minLength: 1, maxLength: 6 },
);

it('what is written as WebVTT is read again as it was, whatever stands in it', () =>
  fc.assert(
    fc.property(anyCues, (cues) => {
      expect(readWebVtt(writeWebVtt(cues, 'en'))).toEqual(cues);
    }),
    { seed: 2, numRuns: 500 },
  ));

it('and as SRT, where nothing in it looks like its own marks', () =>
  fc.assert(
    fc.property(anyCues, (cues) => {
      fc.pre(cues.every(({ text }) => !/[<{]|-->|^\d+$/m.test(text)));
      expect(readSrt(writeSrt(cues).replaceAll('\r\n', '\n'))).toEqual(cues);
    }),
    { seed: 2, numRuns: 500 },
  ));

describe('files', () => {
  it('are read in whatever they are written in', () => {
    const vtt = 'WEBVTT\r\n\r\n00:01.000 --> 00:02.000\r\nFällt „später“';
    const utf16 = new Uint8Array(2 + vtt.length * 2);
    utf16.set([0xff, 0xfe]);
    [...vtt].forEach((sign, at) => {
      utf16[2 + at * 2] = sign.charCodeAt(0) & 255;
      utf16[3 + at * 2] = sign.charCodeAt(0) >> 8;
    });
    expect(readWordsFile(utf16)).toMatchObject({ cues: [cue(1000, 2000, 'Fällt „später“')] });
    expect(readWordsFile(bytes(`\ufeff${vtt}`))).toMatchObject({ told: [], kind: 'cues' });
    const old = Uint8Array.from([...'Fällt'].map((sign) => sign.charCodeAt(0)));
    const read = readWordsFile(old);
    expect(read).toMatchObject({ kind: 'text', text: 'Fällt' });
    expect(read.told[0]).toContain('not in UTF-8');
  });
  it('times that go backward are told, and the rest is there, in order', () => {
    const read = readWordsFile(
      bytes(
        'WEBVTT\n\n00:05.000 --> 00:04.000\nback\n\n00:03.000 --> 00:04.000\nb\n\n00:01.000 --> 00:02.000\na',
      ),
    );
    expect(read).toMatchObject({ cues: [{ text: 'a' }, { text: 'b' }] });
    expect(read.told).toEqual(['One of them ends before it begins, and was left out.']);
  });
  it.each([
    ['words-too-large', new Uint8Array(MOST_BYTES + 1)],
    ['words-unreadable', Uint8Array.from({ length: 5_000 }, (_, at) => (at * 7) % 32)],
    ['words-empty', bytes('WEBVTT\n\nNOTE nothing')],
    ['words-empty', bytes(' \n ')],
    ['words-too-large', bytes(`WEBVTT\n\n${'00:01.000 --> 00:02.000\nx\n\n'.repeat(20_001)}`)],
  ])('%s', (code, file) => {
    expect(() => readWordsFile(file)).toThrow(code);
  });
});
