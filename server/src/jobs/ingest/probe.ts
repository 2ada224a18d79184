import { openOptions, run, start, type Limits, type MediaFile } from '@under-chalk/render';
import { createInterface } from 'node:readline';
import * as z from 'zod';

const streamSchema = z.object({
  index: z.number().int(),
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  pix_fmt: z.string().optional(),
  width: z.number().int().optional(),
  height: z.number().int().optional(),
  sample_aspect_ratio: z.string().optional(),
  field_order: z.string().optional(),
  color_space: z.string().optional(),
  channels: z.number().int().optional(),
  start_time: z.string().optional(),
  side_data_list: z.array(z.object({ rotation: z.number().optional() })).optional(),
  disposition: z.object({ attached_pic: z.number().optional() }).optional(),
});
const probeSchema = z.object({ streams: z.array(streamSchema).default([]) });

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

/** What is in a file: its first picture stream and its first sound stream. */
export const probe = async (
  media: MediaFile,
  signal?: AbortSignal,
  limits: Limits = LOOK_LIMITS,
): Promise<Facts> => {
  const json = await run(
    'ffprobe',
    ['-v', 'error', ...openOptions(media), '-show_streams', '-of', 'json', media.path],
    signal,
    limits,
  );
  const { streams } = probeSchema.parse(JSON.parse(json.toString('utf8')));
  const video = streams.find(
    (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1,
  );
  const sound = streams.find((stream) => stream.codec_type === 'audio');
  const rotation =
    video?.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0;
  return {
    video: video
      ? {
          index: video.index,
          codec: video.codec_name ?? '',
          pixelFormat: video.pix_fmt ?? '',
          widthPx: video.width ?? 0,
          heightPx: video.height ?? 0,
          pixelAspect: aspectOf(video.sample_aspect_ratio),
          rotation,
          interlaced: !PROGRESSIVE.includes(video.field_order ?? 'unknown'),
          matrix: video.color_space && video.color_space !== 'unknown' ? video.color_space : null,
          startUs: toUs(video.start_time),
        }
      : null,
    sound: sound
      ? {
          index: sound.index,
          codec: sound.codec_name ?? '',
          channels: sound.channels ?? 0,
          startUs: toUs(sound.start_time),
        }
      : null,
  };
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

/** Reads the packet times of one stream of a file, its first if none is named. Decodes nothing. */
export const packetTimes = async (
  media: MediaFile,
  stream = 0,
  signal?: AbortSignal,
  limits: Limits = COUNT_LIMITS,
): Promise<PacketTimes> => {
  const ffprobe = start(
    'ffprobe',
    [
      ...['-v', 'error', ...openOptions(media), '-select_streams', String(stream)],
      ...['-show_entries', 'packet=pts_time,duration_time,flags'],
      ...['-of', 'compact=print_section=0:nokey=1', media.path],
    ],
    signal,
    limits,
  );
  ffprobe.stdin.end();
  // The last two packets in presentation order. With B-frames they are not the last two of the file.
  let last: { readonly atUs: number; readonly forUs: number } | null = null;
  let beforeUs: number | null = null;
  let lastKeyUs = 0;
  let longestKeyGapUs = 0;
  let count = 0;
  let leading = 0;
  for await (const line of createInterface({ input: ffprobe.stdout })) {
    const [pts, duration, flags = ''] = line.split('|');
    const atUs = Math.round(Number(pts) * 1e6);
    if (!pts || Number.isNaN(atUs)) continue;
    if (++count > MOST_PACKETS) {
      ffprobe.kill();
      throw new RangeError('more packets than a day has');
    }
    if (last === null || atUs > last.atUs) {
      beforeUs = last?.atUs ?? null;
      last = { atUs, forUs: Math.round(Number(duration) * 1e6) };
    } else if (atUs < last.atUs && (beforeUs === null || atUs > beforeUs)) beforeUs = atUs;
    if (flags.startsWith('K')) {
      longestKeyGapUs = Math.max(longestKeyGapUs, atUs - lastKeyUs);
      lastKeyUs = atUs;
    } else if (atUs < lastKeyUs) leading++;
  }
  await ffprobe.ended;
  const usualUs = last && beforeUs !== null ? last.atUs - beforeUs : USUAL_US;
  // A last picture with an absurd length (some muxers write one) must not stretch the take.
  const forUs = Math.min(last && last.forUs > 0 ? last.forUs : usualUs, LONGEST_LAST_US);
  const endUs = last ? last.atUs + forUs : 0;
  longestKeyGapUs = Math.max(longestKeyGapUs, endUs - lastKeyUs);
  return { endUs, longestKeyGapUs, count, hasDuration: (last?.forUs ?? 0) > 0, leading };
};
