/** The thread in which texts are put in time with a voice by how alike it is to a synthesizer's. */
import { workInThread } from '../jobs/run-thread';
import { alignLikeness, type LikenessWork } from './likeness-work';

workInThread<LikenessWork>(alignLikeness);
