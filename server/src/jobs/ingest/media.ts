import type { ErrorCode } from '@under-chalk/core/errors/errors';
import { mediumOf, type Medium } from '@under-chalk/core/lesson/medium';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import type { MediaFile } from '@under-chalk/render';
import type { Facts, PacketTimes } from './probe';
import type { EarlyCopy } from './early-copy';
import { copyOf, PICTURE_S, ingestedCopy, ingestPicture } from './ingest-picture';
import { BLOCK_S, canCopySound, ingestSound } from './ingest-sound';
import type { Ingest } from './ingest';

/** A stream of a file. */
export interface Stream {
  readonly index: number;
  /** Pixels of each of its pictures; 0 where there are none. */
  readonly pixels: number;
}

/** What a processed stream came to. */
export interface IngestedStream extends PacketTimes {
  /** Size as shown; 0 where there is nothing to see. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: LevelLine | null;
}

/** How the tracks of a medium that ffmpeg knows are processed. What else happens has a file of its own (`process-ink`). */
interface MediumHandler {
  /** What is told of a stream of it that can't be read. */
  readonly unreadable: ErrorCode;
  /** The stream of a file that is of it; null where the file has none. */
  readonly streamOf: (facts: Facts) => Stream | null;
  /** Makes the media. Null when nothing can be had of it. */
  readonly ingest: (
    inputs: readonly MediaFile[],
    facts: Facts,
    out: MediaFile,
    ingest: Ingest,
  ) => Promise<IngestedStream | null>;
  /** Options of the codec that copy a stream of it as it is. */
  readonly copy: readonly string[];
  /** What a copy that was made while the track came in comes to. Null when it has to be made anew. */
  readonly ingestCopy: (
    copy: EarlyCopy,
    facts: Facts,
    ingest: Ingest,
  ) => Promise<IngestedStream | null>;
}

/** A new medium is a line here and a file beside it. */
export const MEDIA: { readonly [Each in Exclude<Medium, 'events'>]: MediumHandler } = {
  picture: {
    unreadable: 'picture-unreadable',
    streamOf: ({ video }) =>
      video && { index: video.index, pixels: video.widthPx * video.heightPx },
    async ingest(inputs, facts, out, ingest) {
      const made = await ingestPicture(inputs, facts.video!, out, ingest);
      return made && { ...made, levels: null };
    },
    copy: copyOf(PICTURE_S),
    ingestCopy: ({ media, times }, { video }, ingest) =>
      video === null ? Promise.resolve(null) : ingestedCopy(video, media, times, ingest),
  },
  sound: {
    unreadable: 'sound-unreadable',
    streamOf: ({ sound }) => sound && { index: sound.index, pixels: 0 },
    async ingest(inputs, facts, out, ingest) {
      const made = await ingestSound(inputs, facts.sound!, out, ingest);
      return made && { ...made, widthPx: 0, heightPx: 0 };
    },
    copy: copyOf(BLOCK_S),
    async ingestCopy({ times, levels }, { sound }) {
      if (!sound || !canCopySound(sound) || !levels || levels.length === 0) return null;
      return { ...times, widthPx: 0, heightPx: 0, levels };
    },
  },
};

/** The handler of a track that is a picture or a sound. */
export const filmed = (kind: TrackKind): MediumHandler => {
  const medium = mediumOf(kind);
  if (medium === 'events') throw new RangeError(`${kind} is neither seen nor heard`);
  return MEDIA[medium];
};
