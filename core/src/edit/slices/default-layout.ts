import { layoutSchema, DEFAULT_LAYOUT } from '../../lesson/layout';
import { sliceOf } from '../slice';

/** The layout wherever no other is decided. */
export const defaultLayoutSlice = sliceOf('defaultLayout', layoutSchema, DEFAULT_LAYOUT);
