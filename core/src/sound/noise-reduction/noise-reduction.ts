import * as z from 'zod';
import type { LevelLine } from '../level-line';

/** How much of the room is taken away. */
export const noiseReductionSchema = z.enum(['gently', 'firmly']);
export type NoiseReduction = z.infer<typeof noiseReductionSchema>;

/** Raise when the same sound comes out differently. */
export const NOISE_REDUCTION_VERSION = 1;

/** By how much what is only noise is taken down, dB. */
export const REDUCED_DB: Readonly<Record<NoiseReduction, number>> = { gently: 12, firmly: 22 };

/**
 * Quieter than the voice by more than this the room isn't touched, and by less than that it is taken down wholly; between
 * the two by a part, dB.
 */
const UNTOUCHED_DB = 42;
const WHOLLY_DB = 34;

/** How much of it is taken down where the room is so much quieter than the voice, 0 to 1. */
export const shareOf = (belowVoiceDb: number): number =>
  Math.max(0, Math.min(1, (UNTOUCHED_DB - belowVoiceDb) / (UNTOUCHED_DB - WHOLLY_DB)));

/** How loud a room is under a voice. */
export interface Noise {
  /** dBFS (RMS). */
  readonly roomDbfs: number;
  readonly voiceDbfs: number;
}

/** Nearer to what is loud than this, what is quiet is no room under a voice: it is music, or nobody pauses. dB */
const LEAST_BELOW_DB = 6;

/** Fewer steps of sound than this tell nothing of a room: a second. */
const LEAST_STEPS = 50;

/**
 * How loud the room of a recording is, by its level line: in its quietest part, against its loud tenth.
 *
 * @returns null where it can't be told
 */
export const noiseIn = (line: LevelLine): Noise | null => {
  // Nothing at all is a microphone that was off.
  const heard = Uint8Array.from(line.filter((level) => level > 0)).sort();
  if (heard.length < LEAST_STEPS) return null;
  const at = (share: number) => heard[Math.floor(share * (heard.length - 1))]! - 100;
  const room = { roomDbfs: at(0.03), voiceDbfs: at(0.9) };
  return room.voiceDbfs - room.roomDbfs < LEAST_BELOW_DB ? null : room;
};

/** Nearer to the voice than this it is heard by whoever listens with an earphone, dB. */
const HEARD_DB = 32;
const LOUD_DB = 20;

/** What a room does to a voice, in words; null where it isn't to be heard. */
export const noiseInWords = ({ roomDbfs, voiceDbfs }: Noise): string | null => {
  const below = voiceDbfs - roomDbfs;
  if (below >= HEARD_DB) return null;
  const how = below < LOUD_DB ? 'is loud' : 'can be heard';
  return `the room ${how} under the voice (${Math.round(below)} dB below it)`;
};

/** How it stands with a voice without its room, on the server. */
export const noiseReducedStateSchema = z.discriminatedUnion('is', [
  /** There is no voice, or it isn't ready. */
  z.object({ is: z.literal('none') }),
  z.object({ is: z.literal('making'), share: z.number().min(0).max(1) }),
  z.object({ is: z.literal('ready') }),
  z.object({ is: z.literal('failed') }),
]);
export type NoiseReducedState = z.infer<typeof noiseReducedStateSchema>;

/** Longest part that can be heard before all is done, µs. */
export const MOST_PART_US = 30_000_000;
