import { contentAt, contentsOf, headerAt } from './box';

/** Where the samples of a track lie in a file that isn't fragmented (ISO/IEC 14496-12 §8.7). */
export interface SampleTable {
  /** `vide`, `soun`, `text`, … (§8.4.3). */
  readonly handler: string;
  /** The box that says how its samples are to be decoded (§8.5.2): its first, and here its only one. */
  readonly entry: Uint8Array;
  /** Where each begins in the file, bytes, and how many it has. */
  readonly offsets: Float64Array;
  readonly sizes: Uint32Array;
}

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length);

const needed = (table: Uint8Array | null, name: string): DataView => {
  if (!table) throw new RangeError(`a track without ${name}`);
  return viewOf(table);
};

const sizesIn = (stbl: Uint8Array): Uint32Array => {
  const stsz = needed(contentAt(stbl, 'stsz'), 'stsz');
  const [each, count] = [stsz.getUint32(4), stsz.getUint32(8)];
  const sizes = new Uint32Array(count);
  for (let at = 0; at < count; at++) sizes[at] = each || stsz.getUint32(12 + at * 4);
  return sizes;
};

/** Where chunks of samples begin, in 32 bits or in 64 (§8.7.5). */
const chunksIn = (stbl: Uint8Array): number[] => {
  const large = contentAt(stbl, 'co64');
  const view = large ? viewOf(large) : needed(contentAt(stbl, 'stco'), 'stco');
  return Array.from({ length: view.getUint32(4) }, (_, at) =>
    large ? Number(view.getBigUint64(8 + at * 8)) : view.getUint32(8 + at * 4),
  );
};

/** Samples lie one after another in chunks; which chunks have how many is told where it changes (§8.7.4). */
const offsetsIn = (stbl: Uint8Array, sizes: Uint32Array): Float64Array => {
  const stsc = needed(contentAt(stbl, 'stsc'), 'stsc');
  const chunks = chunksIn(stbl);
  const offsets = new Float64Array(sizes.length);
  const entries = stsc.getUint32(4);
  let sample = 0;
  for (let entry = 0; entry < entries; entry++) {
    const [first, each] = [stsc.getUint32(8 + entry * 12), stsc.getUint32(12 + entry * 12)];
    const next = entry + 1 < entries ? stsc.getUint32(8 + (entry + 1) * 12) : chunks.length + 1;
    for (let chunk = first; chunk < next; chunk++) {
      let at = chunks[chunk - 1]!;
      for (let inChunk = 0; inChunk < each && sample < sizes.length; inChunk++) {
        offsets[sample] = at;
        at += sizes[sample]!;
        sample++;
      }
    }
  }
  if (sample < sizes.length) throw new RangeError('samples that lie nowhere');
  return offsets;
};

/**
 * The tracks of a file, and where their samples lie in it. For files of our own making.
 *
 * @param moov content of its `moov`
 * @throws RangeError where it isn't whole
 */
export const sampleTablesIn = (moov: Uint8Array): SampleTable[] =>
  contentsOf(moov, 'trak').map((trak) => {
    const stbl = contentAt(trak, 'mdia', 'minf', 'stbl');
    const entries = stbl && contentAt(stbl, 'stsd');
    const entry = entries && headerAt(entries, 8);
    const hdlr = contentAt(trak, 'mdia', 'hdlr');
    if (!stbl || !entry || !hdlr) throw new RangeError('a track that isn’t described');
    const sizes = sizesIn(stbl);
    return {
      handler: String.fromCharCode(...hdlr.subarray(8, 12)),
      entry: entries.slice(8, 8 + entry.length),
      offsets: offsetsIn(stbl, sizes),
      sizes,
    };
  });
