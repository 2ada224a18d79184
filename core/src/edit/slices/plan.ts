import { NEW_PLAN, planSchema } from '../../lesson/plan';
import { sliceOf } from '../slice';

export const planSlice = sliceOf('plan', planSchema, NEW_PLAN);
