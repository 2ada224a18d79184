import { Notice } from '../../ui/notice';

/** Why a take ended by itself. */
export const StoreFullNotice = () => (
  <Notice
    tone="bad"
    urgent
    title="This browser has no more room: the take ended here."
    text="What was recorded until then is safe. Make room on this device before the next take."
  />
);
