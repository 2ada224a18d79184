import * as z from 'zod';
import { frameShapeSchema } from '../../lesson/arrangement';
import { sliceOf } from '../slice';

export const frameSlice = sliceOf('frame', z.object({ shape: frameShapeSchema }).readonly(), {
  shape: '16:9',
});
