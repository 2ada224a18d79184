import { createCanvas, ImageData, type Canvas } from '@napi-rs/canvas';
import type { Readable } from 'node:stream';
import type { Track } from '@under-chalk/core/lesson/take';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import type { FrameWriter, PictureReader } from '../paths/painter';
import { CHUNK_LIMITS, VIDEO_ENCODER } from './encoder';
import { framesFilter, openPictures, picturesFrom, rgbaToFilm, toRgba } from './pictures';
import type { Limits } from './limited';
import { feed, start, type MediaFile } from './run';

/** Reads exactly `size` bytes at a time from a stream; null when it ends before. */
export const exactReader = (stream: Readable, size: number) => {
  const parts: Buffer[] = [];
  let held = 0;
  const iterator = stream[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  return async (): Promise<Buffer | null> => {
    while (held < size) {
      const { value, done } = await iterator.next();
      if (done) return null;
      parts.push(value);
      held += value.length;
    }
    const joined = parts.length === 1 ? parts[0]! : Buffer.concat(parts);
    parts.length = 0;
    held = joined.length - size;
    if (held > 0) parts.push(joined.subarray(size));
    return joined.subarray(0, size);
  };
};

/** Decodes a picture track with ffmpeg into a Skia canvas, frame by frame. */
export const ffmpegPictures = (
  media: MediaFile,
  track: Track,
  startFrame: number,
  frames: number,
  signal?: AbortSignal,
  limits: Limits = CHUNK_LIMITS,
): PictureReader<Canvas> => {
  const { widthPx, heightPx } = track;
  const from = picturesFrom(media, track.durationUs, startFrame);
  const decoder = start(
    'ffmpeg',
    [
      ...openPictures(from),
      '-vf',
      // The size is given so that a stream which changes it midway can't shift the bytes.
      `${framesFilter(from, frames)},${toRgba({ width: widthPx, height: heightPx })}`,
      '-f',
      'rawvideo',
      'pipe:1',
    ],
    signal,
    limits,
  );
  decoder.stdin.end();
  const read = exactReader(decoder.stdout, widthPx * heightPx * 4);
  const canvas = createCanvas(widthPx, heightPx);
  const context = canvas.getContext('2d');
  return {
    async next() {
      const bytes = await read();
      if (!bytes) {
        await decoder.ended;
        throw new Error(`the footage of ${track.id} ended before frame ${startFrame + frames}`);
      }
      const pixels = new Uint8ClampedArray(bytes.buffer, bytes.byteOffset, bytes.length);
      context.putImageData(new ImageData(pixels, widthPx, heightPx), 0, 0);
      return { image: canvas, widthPx, heightPx };
    },
    async close() {
      decoder.kill();
      await decoder.ended.catch(() => undefined);
    },
  };
};

/** Encodes what is on a Skia canvas with ffmpeg, frame by frame, into a file. */
export const ffmpegFrames = (
  canvas: Canvas,
  size: SizePx,
  out: string,
  settings: readonly string[] = VIDEO_ENCODER,
  signal?: AbortSignal,
  limits: Limits = CHUNK_LIMITS,
): FrameWriter => {
  const encoder = start(
    'ffmpeg',
    [
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${size.widthPx}x${size.heightPx}`,
      '-r',
      String(FILM_FPS),
      '-i',
      'pipe:0',
      '-vf',
      // As ffmpeg’s own filters say of what they lay together: it comes to stand in the stream’s headers.
      `${rgbaToFilm('yuv420p')},setsar=1`,
      ...settings,
      '-f',
      'mp4',
      out,
    ],
    signal,
    limits,
  );
  return {
    async write() {
      // Copied, because the pipe may still hold it when the canvas is painted anew.
      await feed(encoder, Buffer.from(canvas.data()));
    },
    async finish() {
      encoder.stdin.end();
      await encoder.ended;
    },
  };
};
