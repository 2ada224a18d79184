/** The thread in which the room is taken from under a voice. */
import { mediaIn } from '../../store/media-store';
import { workInThread } from '../run-thread';
import type { CleaningWork } from './cleaned-tracks';
import { makeCleaned } from './make-cleaned';

workInThread<CleaningWork>(({ folders, track, cleaning }, onProgress, signal) =>
  makeCleaned(mediaIn(folders), track, cleaning, onProgress, signal),
);
