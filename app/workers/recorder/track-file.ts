import {
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  StreamTarget,
  type StreamTargetChunk,
} from 'mediabunny';
import type { PieceLine } from './piece-line';

/** A packet of Opus holds this much (RFC 6716 §2.1.4), as encoded here. */
const LEAST_PACKET_SECONDS = 0.02;
/** A fragment, and so a piece, holds about this much: what can be lost with the tab. */
const FRAGMENT_SECONDS = 0.9;

/**
 * One track as a fragmented MP4 (ISO/IEC 14496-12 §8.8), written from front to back: at any moment what
 * has been written can be read up to its last whole fragment.
 */
export class TrackFile {
  readonly #output: Output;
  readonly #video: EncodedVideoPacketSource | null = null;
  readonly #audio: EncodedAudioPacketSource | null = null;
  #order: Promise<void>;
  /** Encoded pictures or blocks of sound put into it. */
  packets = 0;

  constructor(kind: 'video' | 'audio', codec: 'avc' | 'vp8' | 'opus' | 'aac', line: PieceLine) {
    let written = 0;
    const writable = new WritableStream<StreamTargetChunk>({
      async write({ data, position }) {
        if (position !== written) throw new Error(`a track must be written in order: ${position}`);
        written += data.length;
        await line.write(data);
      },
    });
    this.#output = new Output({
      format: new Mp4OutputFormat({
        fastStart: 'fragmented',
        minimumFragmentDuration: FRAGMENT_SECONDS,
      }),
      target: new StreamTarget(writable),
    });
    if (kind === 'video') {
      this.#video = new EncodedVideoPacketSource(codec as 'avc' | 'vp8');
      this.#output.addVideoTrack(this.#video);
    } else {
      this.#audio = new EncodedAudioPacketSource(codec as 'opus' | 'aac');
      this.#output.addAudioTrack(this.#audio);
    }
    this.#order = this.#output.start();
  }

  addVideo(chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata): void {
    const packet = EncodedPacket.fromEncodedChunk(chunk);
    this.packets++;
    this.#order = this.#order.then(() => this.#video!.add(packet, meta));
  }

  /** @param atUs recorded time of the packet, which may differ from the encoder's own count */
  addAudio(chunk: EncodedAudioChunk, atUs: number, meta?: EncodedAudioChunkMetadata): void {
    const encoded = EncodedPacket.fromEncodedChunk(chunk);
    // The last one is cut short where the sound ends, to nothing at all at times: a packet without length
    // would be left out when the file is copied.
    const duration = Math.max(encoded.duration, LEAST_PACKET_SECONDS);
    const packet = encoded.clone({ timestamp: atUs / 1e6, duration });
    this.packets++;
    this.#order = this.#order.then(() => this.#audio!.add(packet, meta));
  }

  /** Writes what is left. Rejects when anything before could not be written. */
  async finish(): Promise<void> {
    await this.#order;
    await this.#output.finalize();
  }
}
