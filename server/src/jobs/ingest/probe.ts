import { openOptions, run, start, type Limits, type MediaFile } from '@under-chalk/render';
import { createInterface } from 'node:readline';

/** Fields that ffprobe writes of a stream. */
const STREAM_ENTRIES = [
  'stream=index,codec_type,codec_name,pix_fmt,width,height,sample_aspect_ratio,field_order',
  'color_space,channels,start_time:stream_disposition=attached_pic:stream_side_data=rotation',
].join(',');
const PACKET_ENTRIES = 'packet=stream_index,pts_time,duration_time,flags';

/** The fields of a line that ffprobe writes in its compact format: `section|name=value|…`. */
type Line = ReadonlyMap<string, string>;
const fieldsOf = (line: string): Line =>
  new Map(
    line.split('|').map((field) => {
      const at = field.indexOf('=');
      return at < 0 ? [field, ''] : [field.slice(0, at), field.slice(at + 1)];
    }),
  );

export interface VideoFacts {
  readonly index: number;
  readonly codec: string;
  readonly pixelFormat: string;
  /** As stored, before rotation, and with pixels that need not be square. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** Width of a pixel to its height. */
  readonly pixelAspect: number;
  /** Degrees, as the file asks for it. */
  readonly rotation: number;
  readonly interlaced: boolean;
  /** Of the colours (H.273, Table 4); null when the file doesn't say. */
  readonly matrix: string | null;
  readonly startUs: number;
}

export interface SoundFacts {
  readonly index: number;
  readonly codec: string;
  readonly channels: number;
  readonly startUs: number;
}

export interface Facts {
  readonly video: VideoFacts | null;
  readonly sound: SoundFacts | null;
}

/** For looking into a file without decoding it. */
export const LOOK_LIMITS: Limits = { deadlineMs: 20_000, memoryBytes: 3e9 };

/** For listing all packets of a stream. */
export const COUNT_LIMITS: Limits = { quietMs: 20_000, deadlineMs: 1_800_000, memoryBytes: 3e9 };

/** Most packets that are listed, and so most pictures: a day of them at 60 a second. */
const MOST_PACKETS = 5_200_000;

/** Duration of a stream's only packet if the file doesn't give one, µs. */
const USUAL_US = 33_333;
/** Longest accepted duration of the last packet, µs. */
const LONGEST_LAST_US = 1_000_000;

const toUs = (seconds: string | undefined): number => {
  const us = Math.round(Number(seconds) * 1e6);
  return Number.isFinite(us) ? us : 0;
};

const aspectOf = (text: string | undefined): number => {
  const [width = 0, height = 0] = (text ?? '').split(':').map(Number);
  return width > 0 && height > 0 ? width / height : 1;
};

const PROGRESSIVE = ['progressive', 'unknown'];

const countIn = (text: string | undefined): number => {
  const count = Number(text);
  return Number.isInteger(count) && count > 0 ? count : 0;
};

/** A value that ffprobe knows. */
const known = (text: string | undefined): string | null =>
  text === undefined || ['', 'unknown', 'N/A'].includes(text) ? null : text;

/** The first picture stream and the first sound stream. */
const factsIn = (streams: readonly Line[]): Facts => {
  const ofType = (type: string) =>
    streams.find(
      (stream) =>
        stream.get('codec_type') === type && stream.get('disposition:attached_pic') !== '1',
    );
  const [video, sound] = [ofType('video'), ofType('audio')];
  return {
    video: video
      ? {
          index: countIn(video.get('index')),
          codec: known(video.get('codec_name')) ?? '',
          pixelFormat: known(video.get('pix_fmt')) ?? '',
          widthPx: countIn(video.get('width')),
          heightPx: countIn(video.get('height')),
          pixelAspect: aspectOf(video.get('sample_aspect_ratio')),
          rotation: Number(video.get('rotation') ?? 0) || 0,
          interlaced: !PROGRESSIVE.includes(known(video.get('field_order')) ?? 'unknown'),
          matrix: known(video.get('color_space')),
          startUs: toUs(video.get('start_time')),
        }
      : null,
    sound: sound
      ? {
          index: countIn(sound.get('index')),
          codec: known(sound.get('codec_name')) ?? '',
          channels: countIn(sound.get('channels')),
          startUs: toUs(sound.get('start_time')),
        }
      : null,
  };
};

/** Reads the streams of a file, without its packets. */
export const probe = async (
  media: MediaFile,
  signal?: AbortSignal,
  limits: Limits = LOOK_LIMITS,
): Promise<Facts> => {
  const args = ['-v', 'error', ...openOptions(media), '-show_entries', STREAM_ENTRIES];
  const told = await run('ffprobe', [...args, '-of', 'compact', media.path], signal, limits);
  const lines = told.toString('utf8').split('\n');
  return factsIn(lines.filter((line) => line.startsWith('stream|')).map(fieldsOf));
};

/** Times of a stream's packets. µs. */
export interface PacketTimes {
  readonly endUs: number;
  readonly longestKeyGapUs: number;
  readonly count: number;
  /**
   * Whether the last packet has a duration. Without one, ffmpeg's `fps` filter takes it for zero and drops the last
   * frames.
   */
  readonly hasDuration: boolean;
  /**
   * Pictures that come after a key frame and are shown before it (an open group, H.264 §3.30): they can't
   * be decoded when playing begins at that key frame.
   */
  readonly leading: number;
}

/** Adds up the packets of a stream as they are listed. */
class PacketCount {
  // The last two packets in presentation order. With B-frames they are not the last two of the file.
  #last: { readonly atUs: number; readonly forUs: number } | null = null;
  #beforeUs: number | null = null;
  #lastKeyUs = 0;
  #longestKeyGapUs = 0;
  #count = 0;
  #leading = 0;

  add(packet: Line): void {
    const pts = packet.get('pts_time');
    const atUs = Math.round(Number(pts) * 1e6);
    if (!pts || Number.isNaN(atUs)) return;
    if (++this.#count > MOST_PACKETS) return;
    const last = this.#last;
    if (last === null || atUs > last.atUs) {
      this.#beforeUs = last?.atUs ?? null;
      this.#last = { atUs, forUs: Math.round(Number(packet.get('duration_time')) * 1e6) };
    } else if (atUs < last.atUs && (this.#beforeUs === null || atUs > this.#beforeUs)) {
      this.#beforeUs = atUs;
    }
    if (packet.get('flags')?.startsWith('K')) {
      this.#longestKeyGapUs = Math.max(this.#longestKeyGapUs, atUs - this.#lastKeyUs);
      this.#lastKeyUs = atUs;
    } else if (atUs < this.#lastKeyUs) this.#leading++;
  }

  /** @throws RangeError for a stream of more than {@link MOST_PACKETS} packets: the other streams can still be read */
  get times(): PacketTimes {
    if (this.#count > MOST_PACKETS) throw new RangeError('more packets than a day has');
    const last = this.#last;
    const usualUs = last && this.#beforeUs !== null ? last.atUs - this.#beforeUs : USUAL_US;
    // A last picture with an absurd length (some muxers write one) must not stretch the take.
    const forUs = Math.min(last && last.forUs > 0 ? last.forUs : usualUs, LONGEST_LAST_US);
    const endUs = last ? last.atUs + forUs : 0;
    return {
      endUs,
      longestKeyGapUs: Math.max(this.#longestKeyGapUs, endUs - this.#lastKeyUs),
      count: this.#count,
      hasDuration: (last?.forUs ?? 0) > 0,
      leading: this.#leading,
    };
  }
}

/** Streams of a file and times of their packets. */
export interface Inspected {
  readonly facts: Facts;
  /** @param stream its number in the file @throws RangeError when it has more packets than a day has */
  readonly timesOf: (stream: number) => PacketTimes;
}

/** Reads the streams and all packets of a file in one process. Decodes nothing. */
export const inspect = async (
  media: MediaFile,
  signal?: AbortSignal,
  limits: Limits = COUNT_LIMITS,
): Promise<Inspected> => {
  const ffprobe = start(
    'ffprobe',
    [
      ...['-v', 'error', ...openOptions(media)],
      ...['-show_entries', `${STREAM_ENTRIES}:${PACKET_ENTRIES}`, '-of', 'compact', media.path],
    ],
    signal,
    limits,
  );
  ffprobe.stdin.end();
  const streams: Line[] = [];
  const counts = new Map<number, PacketCount>();
  for await (const line of createInterface({ input: ffprobe.stdout })) {
    const fields = fieldsOf(line);
    if (fields.has('stream')) streams.push(fields);
    if (!fields.has('packet')) continue;
    const stream = countIn(fields.get('stream_index'));
    const count = counts.get(stream) ?? new PacketCount();
    counts.set(stream, count);
    count.add(fields);
  }
  await ffprobe.ended;
  return {
    facts: factsIn(streams),
    timesOf: (stream) => (counts.get(stream) ?? new PacketCount()).times,
  };
};

/** Packet times of the first stream of a file. */
export const packetTimes = async (
  media: MediaFile,
  signal?: AbortSignal,
  limits: Limits = COUNT_LIMITS,
): Promise<PacketTimes> => (await inspect(media, signal, limits)).timesOf(0);
