import * as z from 'zod';
import type { Plan } from './plan';
import { usSchema, type Id, type Take } from './take';

/** How long a card can be in sight, µs. */
export const LEAST_CARD_US = 1_000_000;
export const MOST_CARD_US = 15_000_000;

/** A still with words on it, before the film or after it. */
export const titleCardSchema = z
  .object({
    /** The large words; null: the lesson's title, whatever that comes to be. */
    heading: z.string().max(120).nullable(),
    /** The small ones under them; null: the class, and what the lesson belongs to. */
    line: z.string().max(160).nullable(),
    lastsUs: usSchema.min(LEAST_CARD_US).max(MOST_CARD_US),
  })
  .readonly();
export type TitleCard = z.infer<typeof titleCardSchema>;

export const cardPlaceSchema = z.enum(['opening', 'closing']);
export type CardPlace = z.infer<typeof cardPlaceSchema>;

/** What a card is at first. */
export const FIRST_CARD: TitleCard = { heading: null, line: null, lastsUs: 3_000_000 };

/** What stands on a card. */
export const cardWords = (
  { heading, line }: Pick<TitleCard, 'heading' | 'line'>,
  { title, className, unit }: Pick<Plan, 'title' | 'className' | 'unit'>,
): { readonly heading: string; readonly line: string } => ({
  heading: heading ?? title,
  line: line ?? [className, unit].filter(Boolean).join(' · '),
});

const IDS: Readonly<Record<CardPlace, Id>> = { opening: 'card-opening', closing: 'card-closing' };

/** A card as what stands in a film: a take that nothing was recorded in. */
export const cardTake = (place: CardPlace, { lastsUs }: TitleCard): Take => ({
  id: IDS[place],
  source: 'sound',
  practice: false,
  state: 'ready',
  problem: null,
  cutShort: false,
  recordedAt: new Date(0).toISOString(),
  durationUs: lastsUs,
  tracks: [],
});

/** Which card a take of a film is; null: one that was recorded. */
export const cardPlaceOf = ({ id }: Pick<Take, 'id'>): CardPlace | null =>
  id === IDS.opening ? 'opening' : id === IDS.closing ? 'closing' : null;
