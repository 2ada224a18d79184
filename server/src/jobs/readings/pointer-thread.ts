/** The thread in which a pointer is looked for. */
import { workInThread } from '../run-thread';
import { findPointer } from './find-pointer';
import type { PointerWork } from './pointer-readings';

workInThread<PointerWork>(({ media, track }, onProgress, signal) =>
  findPointer(media, track, onProgress, signal),
);
