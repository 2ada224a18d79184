import type { ReadSource } from './source';

/** Colour behind the pictures where they don't fill the frame. */
export const FRAME_BACKGROUND = '#20292f';

export const GROUND = { kind: 'ground', colour: FRAME_BACKGROUND } as const;

const shown = { layers: [GROUND], moving: false } as const;

export const groundSource: ReadSource = () => ({ borders: [], at: () => shown });
