import {
  FfmpegTimeout,
  isDiskFull,
  openOptions,
  run,
  seekTo,
  type MediaFile,
} from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';
import { COUNT_LIMITS, inspect, type PacketTimes, type VideoFacts } from './probe';
import { makeStream } from './stream-file';
import type { Ingest } from './ingest';

/** Further apart than this, key frames make seeking in the preview too slow. */
const LONGEST_KEY_GAP_US = 4_000_000;

/** 8-bit 4:2:0, limited or full range (browsers encode drawn pictures in full range). */
const PLAYABLE = ['yuv420p', 'yuvj420p'];

/** Most pixels a picture may have to be copied or decoded: 8K. More is a trap, not a lesson. */
const MOST_PIXELS = 7680 * 4320;
/** What is encoded anew is made no larger than this on its longer side, nor smaller than this. */
const LONGEST_PX = 3840;
const LEAST_PX = 16;

/**
 * What was recorded is copied as it is. The last packet of a fragmented file comes without a length, and one
 * that has none falls out of the copy's edit list, or not, as the milliseconds are rounded. Both times are
 * named, for `setts` else gives pictures the times at which they are decoded.
 *
 * @param lastSeconds what it is given
 */
export const copyOf = (lastSeconds: number, ...filters: string[]): string[] => {
  const times = `setts=pts=PTS:dts=DTS:duration=if(DURATION\\,DURATION\\,${lastSeconds}/TB)`;
  return ['-c', 'copy', '-bsf', [times, ...filters].join(',')];
};

/** What the last picture of a track is given, seconds. */
export const PICTURE_S = 1 / 30;

/** For footage that browsers can't be relied on to play, or that can't be sought in: near to lossless. */
const AS_H264 = [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '17', '-pix_fmt', 'yuv420p', '-g', '30'],
  ...['-bf', '0', '-fps_mode', 'passthrough', '-enc_time_base', '-1'],
  ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
  ...['-color_range', 'tv', '-video_track_timescale', '90000'],
];

/** What the colours of a stream are taken for when it doesn't say (as browsers do): by its height. */
const matrixOf = ({ matrix, heightPx }: VideoFacts) => {
  if (matrix === 'gbr') return 'auto';
  return matrix ?? (heightPx >= 720 ? 'bt709' : 'smpte170m');
};

/**
 * Writes into a copied stream what its colours are taken for, where it doesn't say: players differ in what
 * they then take them for (H.273, Tables 2 to 4: 1 is BT.709, 6 is BT.601 with 525 lines).
 */
const namedColours = (facts: VideoFacts): string[] => {
  if (facts.matrix !== null) return [];
  const code = matrixOf(facts) === 'bt709' ? 1 : 6;
  return [
    `h264_metadata=colour_primaries=${code}:transfer_characteristics=${code}:matrix_coefficients=${code}`,
  ];
};

const even = (value: number) => 2 * Math.round(value / 2);

/** The size pictures are encoded anew in: square pixels, even numbers of them, within limits. Before rotation. */
const encodedSize = ({ widthPx, heightPx, pixelAspect }: VideoFacts) => {
  const width = pixelAspect >= 1 ? widthPx * pixelAspect : widthPx;
  const height = pixelAspect >= 1 ? heightPx : heightPx / pixelAspect;
  const scale = Math.min(1, LONGEST_PX / Math.max(width, height));
  return {
    width: Math.max(LEAST_PX, even(width * scale)),
    height: Math.max(LEAST_PX, even(height * scale)),
  };
};

/** Names of matrices as swscale knows them, from those of the files. */
const SCALER_MATRIX: Record<string, string> = {
  bt470bg: 'bt601',
  smpte170m: 'bt601',
  fcc: 'fcc',
  smpte240m: 'smpte240m',
  bt709: 'bt709',
  bt2020nc: 'bt2020',
  bt2020c: 'bt2020',
};

/** swscale takes every pixel format there is. Without exact rounding, a change of colours is off by 4 of 255. */
const SCALING = 'flags=bicubic+accurate_rnd+full_chroma_int';

/** Filters from a stream's pictures to those that are encoded: upright (ffmpeg turns them first), progressive, in the film's colours. */
const filters = (facts: VideoFacts, size: { width: number; height: number }): string => {
  const turned = Math.abs(facts.rotation) % 180 === 90;
  const [width, height] = turned ? [size.height, size.width] : [size.width, size.height];
  const from = SCALER_MATRIX[matrixOf(facts)] ?? 'auto';
  return [
    ...(facts.interlaced ? ['bwdif=mode=send_frame'] : []),
    `scale=${width}:${height}:${SCALING}:in_color_matrix=${from}:out_color_matrix=bt709:out_range=tv`,
    'format=yuv420p',
    'setsar=1',
  ].join(',');
};

/**
 * Whether a decoder gets a picture at the beginning and at the end of a processed file: its index alone says
 * nothing of that.
 */
const isDecodable = async (
  out: MediaFile,
  endUs: Us,
  { signal, limits }: Ingest,
): Promise<boolean> => {
  const from = [0, Math.max(0, endUs - 1_000_000)];
  const frames = await run(
    'ffmpeg',
    [
      ...from.flatMap((atUs) => [
        ...[...openOptions(out), ...seekTo(atUs), '-noaccurate_seek', '-i', out.path],
      ]),
      // An output each: one that has all the frames it may have ends.
      ...from.flatMap((_, input) => [
        ...['-map', `${input}:v:0`, '-frames:v', '1', '-f', 'framecrc', 'pipe:1'],
      ]),
    ],
    signal,
    // Twice what one decoder may take.
    limits({ deadlineMs: 40_000, memoryBytes: 8e9 }),
  ).catch((error: unknown) => {
    if (signal.aborted) throw error;
    return Buffer.alloc(0);
  });
  return [...frames.toString('latin1').matchAll(/^0,/gm)].length === from.length;
};

export interface IngestedPicture extends PacketTimes {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Whether pictures that were recorded here can be shown as they are, by every browser and every render path. */
export const isPlayable = ({ codec, pixelFormat, rotation }: VideoFacts): boolean =>
  codec === 'h264' && PLAYABLE.includes(pixelFormat) && rotation === 0;

/** Whether pictures can be shown as they are. */
const canCopy = (facts: VideoFacts, ingest: Ingest): boolean => {
  const plain = isPlayable(facts);
  if (!ingest.foreign || !plain) return plain;
  return (
    facts.pixelAspect === 1 &&
    !facts.interlaced &&
    facts.widthPx % 2 === 0 &&
    facts.heightPx % 2 === 0 &&
    facts.widthPx >= LEAST_PX &&
    facts.heightPx >= LEAST_PX
  );
};

const ingested = (times: PacketTimes, video: VideoFacts | null): IngestedPicture => ({
  ...times,
  widthPx: video?.widthPx ?? 0,
  heightPx: video?.heightPx ?? 0,
});

/** Whether a copy can be sought in and decoded. */
const canBeUsed = async (out: MediaFile, times: PacketTimes, ingest: Ingest) =>
  times.longestKeyGapUs <= LONGEST_KEY_GAP_US &&
  times.leading === 0 &&
  times.hasDuration &&
  (await isDecodable(out, times.endUs, ingest));

/** What a copy that is there already comes to; null when the pictures have to be encoded anew. */
export const ingestedCopy = async (
  facts: VideoFacts,
  out: MediaFile,
  times: PacketTimes,
  ingest: Ingest,
): Promise<(IngestedPicture & { readonly levels: null }) | null> =>
  canCopy(facts, ingest) && (await canBeUsed(out, times, ingest))
    ? { ...ingested(times, facts), levels: null }
    : null;

/**
 * Makes the media of a picture track: copied where it can be played as it is, else encoded anew.
 *
 * @returns null when no picture can be had of it
 */
export const ingestPicture = async (
  inputs: readonly MediaFile[],
  facts: VideoFacts,
  out: MediaFile,
  ingest: Ingest,
): Promise<IngestedPicture | null> => {
  const { signal, foreign, originUs, limits, tell, lengthUs } = ingest;
  if (facts.widthPx * facts.heightPx > MOST_PIXELS || facts.widthPx * facts.heightPx === 0)
    return null;
  const job = {
    inputs,
    stream: facts.index,
    originUs,
    background: foreign,
    limits,
    tell,
    lengthUs,
  };
  if (inputs.length === 1 && canCopy(facts, ingest)) {
    try {
      const codec = copyOf(PICTURE_S, ...(foreign ? namedColours(facts) : []));
      await makeStream({ ...job, codec, graph: null }, ingest.draft(), out.path, signal);
      const copy = await inspect(out, signal, limits(COUNT_LIMITS));
      const times = copy.timesOf(0);
      if (await canBeUsed(out, times, ingest)) return ingested(times, copy.facts.video);
    } catch (error) {
      // What takes too long as it is takes longer when it is decoded too.
      if (signal.aborted || error instanceof FfmpegTimeout || isDiskFull(error)) throw error;
    }
  }
  const size = encodedSize(facts);
  const graph =
    inputs.length === 1
      ? `[0:${facts.index}]${filters(facts, size)}[out]`
      : [
          ...inputs.map((_, index) => `[${index}:v:0]${filters(facts, size)}[run${index}]`),
          // By their times: what one encoder made, then what the next did.
          `${inputs.map((_, index) => `[run${index}]`).join('')}interleave=nb_inputs=${inputs.length}[out]`,
        ].join(';');
  await makeStream({ ...job, codec: AS_H264, graph }, ingest.draft(), out.path, signal);
  const made = await inspect(out, signal, limits(COUNT_LIMITS));
  const times = made.timesOf(0);
  if (times.count === 0 || !(await isDecodable(out, times.endUs, ingest))) return null;
  return ingested(times, made.facts.video);
};
