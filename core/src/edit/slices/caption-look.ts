import { captionLookSchema, FIRST_CAPTION_LOOK } from '../../words/caption-look';
import { sliceOf } from '../slice';

/** How captions stand in the picture. */
export const captionLookSlice = sliceOf('captionLook', captionLookSchema, FIRST_CAPTION_LOOK);
