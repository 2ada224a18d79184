import { boxOf, contentAt, headerAt, joined, words } from './box';
import { Fragments, samplesIn, timescaleIn, type Sample } from './fragments';

const bytesOf = (...numbers: number[]) => Uint8Array.from(numbers);
/** The numbers of 32 bits in a box. */
const wordsOf = (bytes: Uint8Array) => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return Array.from({ length: bytes.length / 4 }, (_, index) => view.getUint32(index * 4));
};

describe('a box', () => {
  const nested = joined(
    boxOf('free', bytesOf(1, 2, 3)),
    boxOf('moov', boxOf('mvhd', words(7)), boxOf('trak', boxOf('mdia', words(8, 9)))),
  );
  it('has its length and its name before what is in it', () =>
    expect([...boxOf('free', bytesOf(1), bytesOf(2))]).toEqual([
      ...[0, 0, 0, 10],
      ...[0x66, 0x72, 0x65, 0x65],
      ...[1, 2],
    ]));
  it('is found in other boxes by their names', () => {
    expect(wordsOf(contentAt(nested, 'moov', 'trak', 'mdia')!)).toEqual([8, 9]);
    expect([...contentAt(nested, 'free')!]).toEqual([1, 2, 3]);
    expect(contentAt(nested, 'moov', 'mdia')).toBeNull();
    expect(contentAt(nested, 'trak')).toBeNull();
  });
  it('may tell its length in 64 bits', () => {
    const large = joined(words(1), new TextEncoder().encode('mdat'), words(2, 5));
    const header = { name: 'mdat', length: 2 * 2 ** 32 + 5, headerBytes: 16 };
    expect(headerAt(large, 0)).toEqual(header);
    expect(headerAt(large.subarray(0, 12), 0)).toBeNull();
  });
  it('is none where its length doesn’t hold its header, or the bytes end', () => {
    expect(headerAt(joined(words(0), new TextEncoder().encode('free')), 0)).toBeNull();
    expect(headerAt(joined(words(7), new TextEncoder().encode('free')), 0)).toBeNull();
    expect(headerAt(nested.subarray(0, 7), 0)).toBeNull();
  });
});

describe('fragments', () => {
  const sample = (at: number, key: boolean, size = 3): Sample => ({
    bytes: new Uint8Array(size).fill(at % 251),
    at,
    duration: 40,
    key,
  });
  /** What a reader makes of a fragment: when it begins, and each sample's length, key and bytes. */
  const read = (fragment: Uint8Array) => {
    const [, sequence] = wordsOf(contentAt(fragment, 'moof', 'mfhd')!);
    const [, high, low] = wordsOf(contentAt(fragment, 'moof', 'traf', 'tfdt')!);
    const [, count, dataAt, ...entries] = wordsOf(contentAt(fragment, 'moof', 'traf', 'trun')!);
    let from = dataAt!;
    const samples = Array.from({ length: count! }, (_, index) => {
      const [duration, size, flags] = entries.slice(index * 3, index * 3 + 3);
      const bytes = [...fragment.subarray(from, (from += size!))];
      // §8.8.3.1: sample_is_non_sync_sample.
      return { duration, key: (flags! & 0x1_0000) === 0, bytes };
    });
    expect(from).toBe(fragment.length);
    return { sequence, at: high! * 2 ** 32 + low!, samples };
  };

  it('begin with a key sample, when the one before is long enough', () => {
    const fragments = new Fragments(90);
    const add = (at: number, key: boolean) => fragments.add(sample(at, key));
    expect([add(0, true), add(40, true), add(80, false), add(120, false)]).toEqual(
      Array(4).fill(null),
    );
    const first = read(add(160, true)!);
    expect(first).toMatchObject({ sequence: 1, at: 0 });
    expect(first.samples.map(({ key }) => key)).toEqual([true, true, false, false]);
    const last = read(fragments.end()!);
    expect(last).toMatchObject({ sequence: 2, at: 160, samples: [{ key: true, duration: 40 }] });
    expect(fragments.end()).toBeNull();
  });
  it('give each sample the time until the next, across fragments too', () => {
    const fragments = new Fragments(100);
    const made = [0, 33, 70, 100, 250]
      .map((at) => fragments.add(sample(at, true, at + 1)))
      .filter((fragment) => fragment !== null);
    const all = [...made, fragments.end()!].map(read);
    expect(all.map(({ at }) => at)).toEqual([0, 100, 250]);
    const samples = all.flatMap((fragment) => fragment.samples);
    expect(samples.map(({ duration }) => duration)).toEqual([33, 37, 30, 150, 40]);
    expect(samples.map(({ bytes }) => bytes.length)).toEqual([1, 34, 71, 101, 251]);
    expect(samples[3]!.bytes).toEqual(Array(101).fill(100));
  });
  it('go on past what 32 bits can count', () => {
    const fragments = new Fragments(1);
    const late = 3 * 2 ** 32 + 17;
    fragments.add(sample(late, true));
    expect(read(fragments.end()!).at).toBe(late);
  });
  it('are read back as they were written, and nothing else is taken for one', () => {
    const fragments = new Fragments(1_000);
    const late = 2 ** 32 + 5;
    for (const [at, key] of [
      [late, true],
      [late + 30, false],
      [late + 75, true],
    ] as const) {
      fragments.add(sample(at, key));
    }
    const moof = contentAt(fragments.end()!, 'moof')!;
    expect(samplesIn(moof)).toEqual([
      { at: late, duration: 30, key: true },
      { at: late + 30, duration: 45, key: false },
      { at: late + 75, duration: 40, key: true },
    ]);
    // Cut off in the middle of a sample, or with other flags: it can't be relied on.
    expect(samplesIn(moof.subarray(0, moof.length - 4))).toBeNull();
    const other = Uint8Array.from(moof);
    const trun = contentAt(other, 'traf', 'trun')!;
    trun[3] = 0x05;
    expect(samplesIn(other)).toBeNull();
    expect(samplesIn(boxOf('mfhd', words(0, 1)))).toBeNull();
  });
  it('count in the ticks that their head tells', () => {
    const moov = (mdhd: Uint8Array) => boxOf('trak', boxOf('mdia', boxOf('mdhd', mdhd)));
    expect(timescaleIn(moov(words(0, 1, 2, 90_000, 0)))).toBe(90_000);
    expect(timescaleIn(moov(words(0x0100_0000, 0, 1, 0, 2, 48_000, 0, 0)))).toBe(48_000);
    expect(timescaleIn(moov(words(0, 1)))).toBeNull();
  });
});
