import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { FfmpegTimeout, isDiskFull, onTheClock, type MediaFile } from '@under-chalk/render';
import { LEVEL_LIMITS, measureLevels } from './level-line';
import { COUNT_LIMITS, packetTimes, type PacketTimes, type SoundFacts } from './probe';
import { copyOf } from './ingest-picture';
import { makeStream } from './stream-file';
import type { Ingest } from './ingest';

const PLAYABLE = ['aac', 'opus', 'mp3'];
/** What the last block of a track is given, seconds. */
export const BLOCK_S = 0.02;

const RATE = 48_000;
/** AAC of what browsers can't be relied on to play. */
const AS_AAC = ['-c:a', 'aac', '-b:a', '192k', '-ac', '2'];

export interface IngestedSound extends PacketTimes {
  readonly levels: LevelLine;
}

/** Whether browsers can be relied on to play it as it is. */
export const canCopySound = ({ codec, channels }: SoundFacts): boolean =>
  PLAYABLE.includes(codec) && channels <= 2;

/** Decodes all of a processed file; null when there is nothing to hear in it. */
const heard = async (out: MediaFile, { signal, limits }: Ingest): Promise<IngestedSound | null> => {
  const levels = await measureLevels(out, signal, limits(LEVEL_LIMITS));
  if (levels.length === 0) return null;
  const times = await packetTimes(out, signal, limits(COUNT_LIMITS));
  return times.count > 0 ? { ...times, levels } : null;
};

/**
 * Makes the media of a sound track: copied where it can be played as it is, else encoded anew with its
 * gaps filled.
 *
 * @returns null when no sound can be had of it
 */
export const ingestSound = async (
  inputs: readonly MediaFile[],
  facts: SoundFacts,
  out: MediaFile,
  ingest: Ingest,
): Promise<IngestedSound | null> => {
  const { signal, originUs, foreign, limits, tell, lengthUs } = ingest;
  const job = {
    inputs,
    stream: facts.index,
    originUs,
    background: foreign,
    limits,
    tell,
    lengthUs,
  };
  if (inputs.length === 1 && canCopySound(facts)) {
    try {
      const codec = copyOf(BLOCK_S);
      await makeStream({ ...job, codec, graph: null }, ingest.draft(), out.path, signal);
      const sound = await heard(out, ingest);
      if (sound) return sound;
    } catch (error) {
      // What takes too long as it is takes longer when it is decoded too.
      if (signal.aborted || error instanceof FfmpegTimeout || isDiskFull(error)) throw error;
    }
  }
  const run = (index: number) => (inputs.length === 1 ? `[0:${facts.index}]` : `[${index}:a:0]`);
  const graph = [
    ...inputs.map(
      (_, index) => `${run(index)}aresample=${RATE},aformat=channel_layouts=stereo[run${index}]`,
    ),
    // By their times: what one encoder made, then what the next did.
    `${inputs.map((_, index) => `[run${index}]`).join('')}${
      inputs.length > 1 ? `ainterleave=nb_inputs=${inputs.length},` : ''
    }${onTheClock(RATE)}[out]`,
  ].join(';');
  await makeStream({ ...job, codec: AS_AAC, graph }, ingest.draft(), out.path, signal);
  return heard(out, ingest);
};
