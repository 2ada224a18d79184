import * as z from 'zod';
import { NEW_DECISIONS, decisionsSchema, type Decisions } from '../edit/decisions';
import type { Edit } from '../edit/edit';
import type { MaterialPage } from '../material/material';
import { cleanLine } from '../text/clean';
import { planSchema } from './plan';
import { idSchema } from './take';

/** As many can be kept. */
export const MOST_MANNERS = 12;

/** What a manner says: everything about how films look that isn't about one take. */
export const manneredSchema = decisionsSchema
  .unwrap()
  .pick({
    resting: true,
    changeUs: true,
    frame: true,
    watermark: true,
    cards: true,
    pointer: true,
    screenPointer: true,
  })
  .readonly();
export type Mannered = z.infer<typeof manneredSchema>;

/** Arrangement, frame, watermark and cards of a lesson, kept under a name for the next ones. */
export const mannerSchema = z
  .object({
    id: idSchema,
    name: z.string().overwrite(cleanLine).trim().min(1).max(60),
    /** The class whose new lessons begin with it; empty: none. */
    className: planSchema.unwrap().shape.className,
    says: manneredSchema,
  })
  .readonly();
export type Manner = z.infer<typeof mannerSchema>;
export const mannersSchema = z.array(mannerSchema).max(MOST_MANNERS).readonly();

/** What a lesson's decisions say of its manner. */
export const mannerOf = ({
  resting,
  changeUs,
  frame,
  watermark,
  cards,
  pointer,
  screenPointer,
}: Mannered): Mannered => ({
  ...{ resting, changeUs, frame, watermark, cards, pointer, screenPointer },
});

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Whether two lessons look alike, as far as manners go. */
export const sameManner = (a: Mannered, b: Mannered): boolean => same(mannerOf(a), mannerOf(b));

/** Whether nothing has been decided about how a lesson looks. */
export const isPlain = (decisions: Decisions): boolean => sameManner(decisions, NEW_DECISIONS);

/** Pages of materials that a manner shows: a lesson that takes it has to have them. */
export const pagesOf = ({ frame: { ground }, watermark }: Mannered): MaterialPage[] => [
  ...(ground.is === 'page' ? [ground.of] : []),
  ...(watermark ? [watermark.of] : []),
];

/** What is to be decided so that a lesson has a manner: what it has already is left as it is. */
export const mannerEdits = (before: Mannered, says: Mannered): Edit[] => {
  const { shape, ...dress } = says.frame;
  const { shape: shapeBefore, ...dressBefore } = before.frame;
  const edits: [before: unknown, after: unknown, edit: Edit][] = [
    [before.resting, says.resting, { do: 'rest', arrangement: says.resting }],
    [before.changeUs, says.changeUs, { do: 'soften', changeUs: says.changeUs }],
    [shapeBefore, shape, { do: 'shape-frame', shape }],
    [dressBefore, dress, { do: 'dress-frame', dress }],
    [before.watermark, says.watermark, { do: 'mark-film', watermark: says.watermark }],
    ...(['opening', 'closing'] as const).map((place): [unknown, unknown, Edit] => [
      ...([before.cards[place], says.cards[place]] as const),
      { do: 'put-card', place, card: says.cards[place] },
    ]),
    [before.pointer, says.pointer, { do: 'show-pointer', look: says.pointer }],
    [
      ...([before.screenPointer, says.screenPointer] as const),
      { do: 'show-screen-pointer', look: says.screenPointer },
    ],
  ];
  return edits.flatMap(([was, is, edit]) => (same(was, is) ? [] : [edit]));
};
