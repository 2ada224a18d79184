import { paperSchema, type Paper } from '@under-chalk/core/ink/pen';
import * as z from 'zod';
import { canCaptureScreen, PRACTICE } from '../../capture/devices';
import { readSetting, writeSetting } from '../../data/kept-setting';
import type { Chosen } from './use-sources';

const KEY = 'under-chalk choices';

/** The camera or microphone that the browser gives. */
const ANY = '';

/** A board as boards are. */
const FIRST_PAPER: Paper = { ruling: 'squared', shade: 'dark' };

const chosenSchema = z.object({
  source: z.enum(['screen', 'camera', 'sound', 'board']),
  screen: z.enum(['real', PRACTICE]),
  screenSound: z.boolean(),
  opens: z.enum(['board', 'materials']).default('board'),
  paper: paperSchema.default(FIRST_PAPER),
  camera: z.string(),
  microphone: z.string(),
  cameraName: z.string().default(''),
  microphoneName: z.string().default(''),
  pen: z.enum(['own', PRACTICE]).default('own'),
  countIn: z.union([z.literal(0), z.literal(3), z.literal(5), z.literal(10)]).default(3),
  ticks: z.boolean().default(true),
});

/** The first time: a voice and a face, as the browser gives them. */
const FIRST: Chosen = {
  source: 'screen',
  screen: 'real',
  screenSound: false,
  opens: 'board',
  paper: FIRST_PAPER,
  camera: ANY,
  microphone: ANY,
  cameraName: '',
  microphoneName: '',
  pen: 'own',
  countIn: 3,
  ticks: true,
};

/** What can be had on this device: one that can't share its screen shows the camera. */
const forThisDevice = (chosen: Chosen): Chosen =>
  chosen.source === 'screen' && chosen.screen === 'real' && !canCaptureScreen()
    ? { ...chosen, source: 'camera' }
    : chosen;

/** What was chosen on this device the last time. */
export const rememberedChoice = (): Chosen =>
  forThisDevice(readSetting<Chosen>(KEY, chosenSchema, FIRST));

/** Without what is only for practising: nobody wants it in the next lesson unasked. */
const real = (chosen: Chosen, before: Chosen): Chosen => ({
  ...chosen,
  screen: 'real',
  pen: 'own',
  ...(chosen.camera === PRACTICE ? { camera: before.camera, cameraName: before.cameraName } : {}),
  ...(chosen.microphone === PRACTICE
    ? { microphone: before.microphone, microphoneName: before.microphoneName }
    : {}),
});

export const rememberChoice = (chosen: Chosen): void => {
  const before = readSetting<Chosen>(KEY, chosenSchema, FIRST);
  writeSetting(KEY, real(chosen, before));
};
