/** The thread in which pieces of a film are made while it is still being recorded. */
import { workInThread } from '../run-thread';
import { workAhead, type WorkAhead } from './work-ahead';

workInThread<WorkAhead>((work, _onProgress, signal) => workAhead(work, signal));
