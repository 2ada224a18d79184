import { openOptions, run, type MediaFile } from '@under-chalk/render';
import * as z from 'zod';

const streamSchema = z.object({
  index: z.number().int(),
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  pix_fmt: z.string().optional(),
  width: z.number().int().optional(),
  height: z.number().int().optional(),
  side_data_list: z.array(z.object({ rotation: z.number().optional() })).optional(),
  disposition: z.object({ attached_pic: z.number().optional() }).optional(),
});
const probeSchema = z.object({ streams: z.array(streamSchema).default([]) });

export interface VideoFacts {
  readonly index: number;
  readonly codec: string;
  readonly pixelFormat: string;
  /** As shown, after rotation. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rotated: boolean;
}

export interface Facts {
  readonly video: VideoFacts | null;
  readonly sound: { readonly index: number; readonly codec: string } | null;
}

/** Most pixels a picture may have: 8K. More is a trap, not a lesson. */
const MOST_PIXELS = 7680 * 4320;

/** What is in a file: its first picture stream and its first sound stream. */
export const probe = async (media: MediaFile): Promise<Facts> => {
  const json = await run('ffprobe', [
    '-v',
    'error',
    ...openOptions(media),
    '-show_streams',
    '-of',
    'json',
    media.path,
  ]);
  const { streams } = probeSchema.parse(JSON.parse(json.toString('utf8')));
  const video = streams.find(
    (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1,
  );
  const sound = streams.find((stream) => stream.codec_type === 'audio');
  const rotation =
    video?.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0;
  const sideways = Math.abs(rotation) % 180 === 90;
  const width = video?.width ?? 0;
  const height = video?.height ?? 0;
  const usable = width > 0 && height > 0 && width * height <= MOST_PIXELS;
  return {
    video:
      video && usable
        ? {
            index: video.index,
            codec: video.codec_name ?? '',
            pixelFormat: video.pix_fmt ?? '',
            widthPx: sideways ? height : width,
            heightPx: sideways ? width : height,
            rotated: rotation !== 0,
          }
        : null,
    sound: sound ? { index: sound.index, codec: sound.codec_name ?? '' } : null,
  };
};

/** Times of a stream's packets: where it ends, and how far apart its key frames are. µs. */
export interface PacketTimes {
  readonly endUs: number;
  readonly longestKeyGapUs: number;
  readonly count: number;
}

/** Reads the packet times of a file's only stream. Decodes nothing. */
export const packetTimes = async (media: MediaFile): Promise<PacketTimes> => {
  const text = await run('ffprobe', [
    '-v',
    'error',
    ...openOptions(media),
    '-show_entries',
    'packet=pts_time,duration_time,flags',
    '-of',
    'compact=print_section=0:nokey=1',
    media.path,
  ]);
  let endUs = 0;
  let lastKeyUs = 0;
  let longestKeyGapUs = 0;
  let usualUs = 33_333;
  let previousUs: number | null = null;
  let count = 0;
  for (const line of text.toString('latin1').split('\n')) {
    const [pts, duration, flags = ''] = line.split('|');
    const atUs = Math.round(Number(pts) * 1e6);
    if (!pts || Number.isNaN(atUs)) continue;
    count++;
    if (previousUs !== null && atUs > previousUs) usualUs = atUs - previousUs;
    previousUs = atUs;
    const knownUs = Math.round(Number(duration) * 1e6);
    // A last picture with an absurd length (some muxers write one) must not stretch the take.
    endUs = Math.max(endUs, atUs + Math.min(knownUs > 0 ? knownUs : usualUs, 1_000_000));
    if (flags.startsWith('K')) {
      longestKeyGapUs = Math.max(longestKeyGapUs, atUs - lastKeyUs);
      lastKeyUs = atUs;
    }
  }
  longestKeyGapUs = Math.max(longestKeyGapUs, endUs - lastKeyUs);
  return { endUs, longestKeyGapUs, count };
};
