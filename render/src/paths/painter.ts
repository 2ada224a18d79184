import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { pictureSlots } from '@under-chalk/core/scene/layers';
import type { PictureLayer } from '@under-chalk/core/scene/layers/picture';
import type { Scene } from '@under-chalk/core/scene/scene';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { nearestFrame } from '@under-chalk/core/time/frames';
import {
  HeldInk,
  paint,
  type Context2D,
  type PageOf,
  type Picture,
  type MakeSheet,
} from '@under-chalk/paint';

/** Pictures of one track, frame of recorded time by frame, from where it was opened. */
export interface PictureReader<P> {
  /** The next frame's picture. It is valid until the next call. */
  next(): Promise<Picture<P>>;
  close(): Promise<void>;
}

/** Takes painted frames and makes an encoded chunk of them. */
export interface FrameWriter {
  /** Takes the canvas as it is now; the canvas may be painted anew when this resolves. */
  write(): Promise<void>;
  /** Resolves when the chunk is whole. */
  finish(): Promise<void>;
}

export interface PaintedChunk<P> {
  /** The scenes of its frames, in order. */
  readonly scenes: readonly Scene[];
  /** Opens a track for some frames of recorded time. */
  readonly open: (trackId: string, startFrame: number, frames: number) => PictureReader<P>;
  readonly inkOf: InkOf;
  readonly pageOf: PageOf<P>;
  /** Makes a canvas on which something is painted once, for all frames. */
  readonly makeSheet: MakeSheet<P>;
}

/** Reads what one slot shows over a chunk. Recorded time may stand, or leave frames out; it never runs backwards. */
class SlotReader<P> {
  readonly #reader: PictureReader<P>;
  #frame: number;
  #picture: Picture<P> | null = null;

  constructor(reader: PictureReader<P>, startFrame: number) {
    this.#reader = reader;
    this.#frame = startFrame - 1;
  }

  async at(frame: number): Promise<Picture<P>> {
    while (this.#picture === null || this.#frame < frame) {
      this.#picture = await this.#reader.next();
      this.#frame++;
    }
    return this.#picture;
  }

  close(): Promise<void> {
    return this.#reader.close();
  }
}

/** Opens each slot of a chunk for the recorded frames that it shows. */
const openSlots = <P>({ scenes, open }: PaintedChunk<P>): Map<string, SlotReader<P>> => {
  const wanted = new Map<string, { trackId: string; from: number; to: number }>();
  for (const scene of scenes) {
    for (const [slot, { trackId, takeUs }] of pictureSlots(scene.layers)) {
      const frame = nearestFrame(takeUs);
      const known = wanted.get(slot) ?? { trackId, from: frame, to: frame };
      wanted.set(slot, { ...known, to: Math.max(known.to, frame) });
    }
  }
  return new Map(
    [...wanted].map(([slot, { trackId, from, to }]) => [
      slot,
      new SlotReader(open(trackId, from, to - from + 1), from),
    ]),
  );
};

/**
 * The painter's render path: paints a chunk frame by frame. Knows neither files nor codecs, so that the same
 * loop runs on the server and in a browser's worker.
 *
 * @param onFrame told after each frame
 */
export const paintChunk = async <P>(
  chunk: PaintedChunk<P>,
  size: SizePx,
  context: Context2D<P>,
  writer: FrameWriter,
  onFrame: () => void,
): Promise<void> => {
  const readers = openSlots(chunk);
  const held = new HeldInk(chunk.makeSheet);
  try {
    for (const scene of chunk.scenes) {
      const pictures = new Map<PictureLayer, Picture<P>>();
      for (const [slot, layer] of pictureSlots(scene.layers)) {
        pictures.set(layer, await readers.get(slot)!.at(nearestFrame(layer.takeUs)));
      }
      const { inkOf, pageOf } = chunk;
      paint(context, size, scene, {
        pictureOf: (layer) => pictures.get(layer),
        ...{ inkOf, pageOf, held, makeSheet: chunk.makeSheet },
      });
      await writer.write();
      onFrame();
    }
    await writer.finish();
  } finally {
    await Promise.all([...readers.values()].map((reader) => reader.close()));
  }
};
