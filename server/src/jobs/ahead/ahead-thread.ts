/** The thread in which pieces of a film are made before somebody wants it: while it is recorded, or to know how large it gets. */
import { workInThread } from '../run-thread';
import { makeSample, type SampleWork } from './make-sample';
import { workAhead, type WorkAhead } from './work-ahead';

workInThread<WorkAhead | SampleWork>((work, _onProgress, signal) =>
  'sampled' in work ? makeSample(work, signal) : workAhead(work, signal),
);
