/** The thread in which a pointer is looked for. */
import { workInThread } from '../run-thread';
import { findPointer } from './find-pointer';
import type { TrackWork } from './track-readings';

workInThread<TrackWork>(({ media, track }, onProgress, signal) =>
  findPointer(media, track, onProgress, signal),
);
