import * as z from 'zod';
import { AT_SPEED, type Rate } from '../time/rate';

/** How fast a stretch goes by, in hundredths of how fast it was recorded: 50 is half as fast, 800 eight times. */
export const speedSchema = z.number().int().min(50).max(800).multipleOf(5);
export type Speed = z.infer<typeof speedSchema>;

/** As it was recorded, in hundredths. */
export const RECORDED_SPEED: Speed = 100;

/** A voice can be followed up to twice its speed; what is faster is seen, and not heard. In hundredths. */
const MOST_HEARD: Speed = 200;

const divisorOf = (a: number, b: number): number => (b === 0 ? a : divisorOf(b, a % b));

export const rateOf = (speed: Speed): Rate => {
  if (speed === RECORDED_SPEED) return AT_SPEED;
  const divisor = divisorOf(speed, RECORDED_SPEED);
  return { recorded: speed / divisor, film: RECORDED_SPEED / divisor };
};

/** Whether what is said at a rate is heard. */
export const isHeardAt = ({ recorded, film }: Rate): boolean =>
  recorded * RECORDED_SPEED <= film * MOST_HEARD;

/** A rate in figures: `1.5`. */
export const rateInFigures = ({ recorded, film }: Rate): string =>
  String(Math.round((recorded / film) * 100) / 100);

/** A speed in words: `half as fast`, `1.5 times as fast`. */
export const speedInWords = (speed: Speed): string =>
  speed === 50 ? 'half as fast' : `${rateInFigures(rateOf(speed))} times as fast`;
