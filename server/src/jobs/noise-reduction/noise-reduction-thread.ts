/** The thread in which the room is taken from under a voice. */
import { mediaIn } from '../../store/media-store';
import { workInThread } from '../run-thread';
import type { NoiseReductionWork } from './noise-reduced-tracks';
import { makeNoiseReduced } from './make-noise-reduced';

workInThread<NoiseReductionWork>(({ folders, track, reduction }, onProgress, signal) =>
  makeNoiseReduced(mediaIn(folders), track, reduction, onProgress, signal),
);
