import * as z from 'zod';
import { NONE, PRACTICE } from '../../capture/devices';
import { readSetting, writeSetting } from './kept-setting';
import type { Chosen } from './use-sources';

const KEY = 'under-chalk choices';

const chosenSchema = z.object({
  source: z.enum(['screen', 'camera', 'sound']),
  screen: z.enum(['real', PRACTICE]),
  screenSound: z.boolean(),
  camera: z.string(),
  microphone: z.string(),
  cameraName: z.string().default(''),
  microphoneName: z.string().default(''),
  countIn: z.union([z.literal(0), z.literal(3), z.literal(5), z.literal(10)]).default(3),
  ticks: z.boolean().default(true),
});

/** Before anything was chosen: nothing is asked of the browser until the teacher wants it. */
const FIRST: Chosen = {
  source: 'screen',
  screen: 'real',
  screenSound: false,
  camera: NONE,
  microphone: NONE,
  cameraName: '',
  microphoneName: '',
  countIn: 3,
  ticks: true,
};

/** What was chosen on this device the last time. */
export const rememberedChoice = (): Chosen => readSetting<Chosen>(KEY, chosenSchema, FIRST);

export const rememberChoice = (chosen: Chosen): void => writeSetting(KEY, chosen);
