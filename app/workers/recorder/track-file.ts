import { contentAt, headerAt, joined } from '@under-chalk/core/mp4/box';
import { Fragments } from '@under-chalk/core/mp4/fragments';
import {
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
} from 'mediabunny';
import type { PieceLine } from './piece-line';

/** A packet of Opus holds this much (RFC 6716 §2.1.4), as encoded here. */
const LEAST_SOUND_US = 20_000;
/** How long the last picture stays, where its frame doesn't say. */
const LAST_PICTURE_US = 33_333;
/** A fragment, and so a piece, holds about this much: what can be lost with the tab. */
const FRAGMENT_US = 900_000;
/** Where the ticks a second stand in an `mdhd` (ISO/IEC 14496-12 §8.4.2), by its version. */
const TIMESCALE_AT = [12, 20];

type PictureCodec = 'avc' | 'vp8';
type SoundCodec = 'opus' | 'aac';
type Meta = EncodedVideoChunkMetadata | EncodedAudioChunkMetadata;

/** What stands before the fragments: the codec, and how many ticks a second the track counts. */
interface Head {
  readonly bytes: Uint8Array;
  readonly timescale: number;
}

/** Made from the first packet, for a file of one track: all that comes before a first fragment. */
const headOf = async (
  codec: PictureCodec | SoundCodec,
  packet: EncodedPacket,
  meta: Meta | undefined,
): Promise<Head> => {
  const target = new BufferTarget();
  const output = new Output({
    format: new Mp4OutputFormat({ fastStart: 'fragmented' }),
    target,
  });
  // Its time is that of the fragments.
  const first = packet.clone({ timestamp: 0 });
  if (codec === 'avc' || codec === 'vp8') {
    const source = new EncodedVideoPacketSource(codec);
    output.addVideoTrack(source);
    await output.start();
    await source.add(first, meta as EncodedVideoChunkMetadata);
  } else {
    const source = new EncodedAudioPacketSource(codec);
    output.addAudioTrack(source);
    await output.start();
    await source.add(first, meta as EncodedAudioChunkMetadata);
  }
  await output.finalize();
  const file = new Uint8Array(target.buffer!);
  let end = 0;
  for (let box = headerAt(file, end); box && box.name !== 'moof'; box = headerAt(file, end)) {
    end += box.length;
  }
  const bytes = file.slice(0, end);
  const mdhd = contentAt(bytes, 'moov', 'trak', 'mdia', 'mdhd')!;
  const view = new DataView(mdhd.buffer, mdhd.byteOffset, mdhd.byteLength);
  return { bytes, timescale: view.getUint32(TIMESCALE_AT[view.getUint8(0)]!) };
};

/**
 * One track as a fragmented MP4 (ISO/IEC 14496-12 §8.8), written from front to back: at any moment what
 * has been written can be read up to its last whole fragment. The head is a library's; the fragments are
 * our own, for the library remembers every sample of a file until its end, and a lesson of two hours has
 * a million.
 */
export class TrackFile {
  readonly #codec: PictureCodec | SoundCodec;
  readonly #line: PieceLine;
  /** Null until the first packet has told what the head needs. */
  #started: { readonly timescale: number; readonly fragments: Fragments } | null = null;
  /** The head, until it goes out with the first fragment. */
  #head: Uint8Array | null = null;
  #lastAt = -1;
  #order: Promise<void> = Promise.resolve();
  /** Encoded pictures or blocks of sound put into it. */
  packets = 0;

  constructor(codec: PictureCodec | SoundCodec, line: PieceLine) {
    this.#codec = codec;
    this.#line = line;
  }

  addVideo(chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata): void {
    this.#add(chunk, chunk.timestamp, chunk.duration ?? LAST_PICTURE_US, meta);
  }

  /** @param atUs recorded time of the packet, which may differ from the encoder's own count */
  addAudio(chunk: EncodedAudioChunk, atUs: number, meta?: EncodedAudioChunkMetadata): void {
    // The last one is cut short where the sound ends, to nothing at all at times: a packet without length
    // would be left out when the file is copied.
    this.#add(chunk, atUs, Math.max(chunk.duration ?? 0, LEAST_SOUND_US), meta);
  }

  /** Writes what is left. Rejects when anything before could not be written. */
  async finish(): Promise<void> {
    await this.#order;
    await this.#write(this.#started?.fragments.end() ?? null);
  }

  #add(
    chunk: EncodedVideoChunk | EncodedAudioChunk,
    atUs: number,
    durationUs: number,
    meta: Meta | undefined,
  ): void {
    // Read now: the encoder takes back what it lends.
    const packet = EncodedPacket.fromEncodedChunk(chunk);
    this.packets++;
    this.#order = this.#order.then(() => this.#put(packet, atUs, durationUs, meta));
  }

  async #put(
    packet: EncodedPacket,
    atUs: number,
    durationUs: number,
    meta: Meta | undefined,
  ): Promise<void> {
    this.#started ??= await this.#start(packet, meta);
    const { timescale, fragments } = this.#started;
    const ticks = (us: number) => Math.round((us * timescale) / 1e6);
    this.#lastAt = Math.max(ticks(atUs), this.#lastAt + 1);
    const { data: bytes, type } = packet;
    const sample = { bytes, at: this.#lastAt, duration: ticks(durationUs), key: type === 'key' };
    await this.#write(fragments.add(sample));
  }

  async #start(packet: EncodedPacket, meta: Meta | undefined) {
    const { bytes, timescale } = await headOf(this.#codec, packet, meta);
    this.#head = bytes;
    return { timescale, fragments: new Fragments((FRAGMENT_US * timescale) / 1e6) };
  }

  async #write(fragment: Uint8Array | null): Promise<void> {
    if (!fragment) return;
    const piece = this.#head ? joined(this.#head, fragment) : fragment;
    this.#head = null;
    await this.#line.write(piece);
  }
}
