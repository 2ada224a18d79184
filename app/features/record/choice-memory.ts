import * as z from 'zod';
import { NONE, PRACTICE } from '../../capture/devices';
import type { Chosen } from './use-sources';

const KEY = 'under-chalk choices';

const chosenSchema = z.object({
  source: z.enum(['screen', 'camera', 'sound']),
  screen: z.enum(['real', PRACTICE]),
  screenSound: z.boolean(),
  camera: z.string(),
  microphone: z.string(),
});

/** Before anything was chosen: nothing is asked of the browser until the teacher wants it. */
const FIRST: Chosen = {
  source: 'screen',
  screen: 'real',
  screenSound: false,
  camera: NONE,
  microphone: NONE,
};

/** What was chosen on this device the last time. */
export const rememberedChoice = (): Chosen => {
  try {
    const kept = chosenSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
    return kept.success ? kept.data : FIRST;
  } catch {
    // Storage can be closed to us (a private window), and what is in it can be anything.
    return FIRST;
  }
};

export const rememberChoice = (chosen: Chosen): void => {
  try {
    localStorage.setItem(KEY, JSON.stringify(chosen));
  } catch {
    // Not remembered; nothing else is lost.
  }
};
