import type { SizePx } from '@under-chalk/core/place/picture-size';
import type { Scene } from '@under-chalk/core/scene/scene';
import { paint, type Context2D, type Picture } from '@under-chalk/paint';

/** Pictures of one track, frame by frame from where it was opened. */
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
  readonly frames: number;
  readonly sceneOf: (frame: number) => Scene;
  readonly readers: ReadonlyMap<string, PictureReader<P>>;
}

/**
 * The painter's road: paints a chunk frame by frame. Knows neither files nor codecs, so that the same
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
  try {
    for (let frame = 0; frame < chunk.frames; frame++) {
      const pictures = new Map<string, Picture<P>>();
      for (const [trackId, reader] of chunk.readers) pictures.set(trackId, await reader.next());
      paint(context, size, chunk.sceneOf(frame), (trackId) => pictures.get(trackId));
      await writer.write();
      onFrame();
    }
    await writer.finish();
  } finally {
    await Promise.all([...chunk.readers.values()].map((reader) => reader.close()));
  }
};
