import type { Id } from '../../lesson/take';
import type { Us } from '../../time/us';
import { sameRect, type PictureBox } from '../geometry';
import type { LayerKind } from './kind';

/** What was written, lying in the frame: a page with its paper, or over what lies under it. */
export interface InkLayer extends PictureBox {
  readonly kind: 'ink';
  /** The take that it is written on. */
  readonly takeId: Id;
  /** How it looks: as it has since this recorded time. Equal times, equal looks. */
  readonly sinceUs: Us;
}

export const ink: LayerKind<InkLayer> = {
  standsStill: (before, after) =>
    before.takeId === after.takeId &&
    before.sinceUs === after.sinceUs &&
    sameRect(before.from, after.from) &&
    sameRect(before.to, after.to) &&
    before.radius === after.radius &&
    before.opacity === after.opacity,
};
