import type { Given } from '../../capture/reading/given';
import type { SentSamples } from '../sound-reader.worklet';

/** Frames are asked for this often, ms. */
const FRAME_MS = 1000 / 30;

/**
 * Frames of a picture that the page sends one by one, each when it is asked for one. No more than one is on
 * its way: a busy page gives fewer, and none piles up.
 */
const framesFrom = (port: MessagePort): ReadableStream<VideoFrame> => {
  let timer: ReturnType<typeof setInterval>;
  let asked = false;
  return new ReadableStream({
    start(controller) {
      port.onmessage = ({ data }: MessageEvent<VideoFrame | null>) => {
        asked = false;
        if (data) controller.enqueue(data);
      };
      timer = setInterval(() => {
        if (asked) return;
        asked = true;
        port.postMessage('next');
      }, FRAME_MS);
    },
    cancel() {
      clearInterval(timer);
      port.close();
    },
  });
};

/** Samples that a worklet sends; their stamps only count them. */
const samplesFrom = (port: MessagePort): ReadableStream<AudioData> => {
  let countedUs = 0;
  return new ReadableStream({
    start(controller) {
      port.onmessage = ({ data }: MessageEvent<SentSamples>) => {
        const { planes, channels, sampleRate } = data;
        const frames = planes.length / channels;
        controller.enqueue(
          new AudioData({
            format: 'f32-planar',
            sampleRate,
            numberOfFrames: frames,
            numberOfChannels: channels,
            timestamp: Math.round(countedUs),
            data: planes,
          }),
        );
        countedUs += (frames * 1e6) / sampleRate;
      };
    },
    cancel() {
      port.close();
    },
  });
};

/** Frames of a picture track, however they come. */
export const framesOf = (given: Given): ReadableStream<VideoFrame> =>
  'port' in given ? framesFrom(given.port) : (given.readable as ReadableStream<VideoFrame>);

/** Samples of a sound track, however they come. */
export const samplesOf = (given: Given): ReadableStream<AudioData> =>
  'port' in given ? samplesFrom(given.port) : (given.readable as ReadableStream<AudioData>);
