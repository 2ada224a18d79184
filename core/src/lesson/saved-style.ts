import * as z from 'zod';
import { NEW_DECISIONS, decisionsSchema, type Decisions } from '../edit/decisions';
import type { Edit } from '../edit/edit';
import { captionLookSlice } from '../edit/slices/caption-look';
import { crossFadeUsSlice } from '../edit/slices/cross-fade-us';
import type { MaterialPage } from '../material/material';
import { cleanLine } from '../text/clean';
import { planSchema } from './plan';
import { idSchema } from './take';
import { pageOfWatermark } from './watermark';

/** As many can be kept. */
export const MOST_SAVED_STYLES = 12;

/** What a style says: everything about how films look that isn't about one take. */
export const styledSchema = decisionsSchema
  .unwrap()
  .pick({
    defaultLayout: true,
    layoutTransitionUs: true,
    crossFadeUs: true,
    frame: true,
    watermark: true,
    titleCards: true,
    pointer: true,
    screenPointer: true,
    captionLook: true,
  })
  // What was kept before there was such a thing says nothing of it.
  .extend({
    crossFadeUs: crossFadeUsSlice.schema.default(crossFadeUsSlice.beginning),
    captionLook: captionLookSlice.schema.default(captionLookSlice.beginning),
  })
  .readonly();
export type Styled = z.infer<typeof styledSchema>;

/** Layout, frame, watermark and cards of a lesson, kept under a name for the next ones. */
export const savedStyleSchema = z
  .object({
    id: idSchema,
    name: z.string().overwrite(cleanLine).trim().min(1).max(60),
    /** The class whose new lessons begin with it; empty: none. */
    className: planSchema.unwrap().shape.className,
    says: styledSchema,
  })
  .readonly();
export type SavedStyle = z.infer<typeof savedStyleSchema>;
export const savedStylesSchema = z.array(savedStyleSchema).max(MOST_SAVED_STYLES).readonly();

/** What a lesson's decisions say of its style; in the schema's order, whatever order they came in. */
export const savedStyleOf = (decisions: Styled): Styled => styledSchema.parse(decisions);

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A style as text: equal texts, equal looks. */
export const savedStyleText = (decisions: Styled): string =>
  JSON.stringify(savedStyleOf(decisions));

/** Whether two lessons look alike, as far as styles go. */
export const sameSavedStyle = (a: Styled, b: Styled): boolean =>
  savedStyleText(a) === savedStyleText(b);

/** Whether nothing has been decided about how a lesson looks. */
export const isPlain = (decisions: Decisions): boolean => sameSavedStyle(decisions, NEW_DECISIONS);

/** Pages of materials that a style shows: a lesson that takes it has to have them. */
export const pagesOf = ({ frame: { ground }, watermark }: Styled): MaterialPage[] => {
  const over = watermark && pageOfWatermark(watermark);
  return [...(ground.is === 'page' ? [ground.of] : []), ...(over ? [over] : [])];
};

/** What is to be decided so that a lesson has a style: what it has already is left as it is. */
export const savedStyleEdits = (before: Styled, says: Styled): Edit[] => {
  const [was, is] = [savedStyleOf(before), savedStyleOf(says)];
  const { shape, ...background } = is.frame;
  const { shape: shapeBefore, ...backgroundBefore } = was.frame;
  const edits: [was: unknown, is: unknown, edit: Edit][] = [
    [was.defaultLayout, is.defaultLayout, { do: 'set-default-layout', layout: is.defaultLayout }],
    [
      was.layoutTransitionUs,
      is.layoutTransitionUs,
      { do: 'set-layout-transition', layoutTransitionUs: is.layoutTransitionUs },
    ],
    [
      ...([was.crossFadeUs, is.crossFadeUs] as const),
      { do: 'set-cross-fade', crossFadeUs: is.crossFadeUs },
    ],
    [shapeBefore, shape, { do: 'set-frame-shape', shape }],
    [backgroundBefore, background, { do: 'set-background', background }],
    [was.watermark, is.watermark, { do: 'set-watermark', watermark: is.watermark }],
    ...(['opening', 'closing'] as const).map((place): [unknown, unknown, Edit] => [
      ...([was.titleCards[place], is.titleCards[place]] as const),
      { do: 'set-title-card', place, card: is.titleCards[place] },
    ]),
    [was.pointer, is.pointer, { do: 'show-pointer', look: is.pointer }],
    [
      ...([was.screenPointer, is.screenPointer] as const),
      { do: 'show-screen-pointer', look: is.screenPointer },
    ],
    [was.captionLook, is.captionLook, { do: 'show-captions', look: is.captionLook }],
  ];
  return edits.flatMap(([one, other, edit]) => (same(one, other) ? [] : [edit]));
};
