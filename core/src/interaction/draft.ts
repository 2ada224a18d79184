import * as z from 'zod';
import { readNumber } from './answer';
import { linkSchema, interactionSchema, type Asked, type Interaction } from './interaction';
import { MOST_OPTIONS } from './shown';

/** An interaction as it is being written: all that was typed, whatever its kind is at the moment. */
export const draftSchema = z
  .object({
    is: z.enum(['question', 'note', 'link', 'pause']),
    text: z.string(),
    address: z.string(),
    by: z.enum(['one', 'several', 'words', 'number']),
    options: z.array(z.object({ text: z.string(), right: z.boolean() }).readonly()).readonly(),
    number: z.string(),
    within: z.string(),
    unit: z.string(),
    waits: z.boolean(),
    /** Whether it is said if an answer is right. */
    says: z.boolean(),
    toRight: z.string(),
    toWrong: z.string(),
  })
  .readonly();
export type InteractionDraft = z.infer<typeof draftSchema>;

const NO_OPTION = { text: '', right: false };

export const NEW_DRAFT: InteractionDraft = {
  ...{ is: 'question', text: '', address: 'https://', by: 'one', options: [NO_OPTION, NO_OPTION] },
  ...{ number: '', within: '0', unit: '', waits: false, says: true, toRight: '', toWrong: '' },
};

/** Options to be typed in: those that are there, and one more while there is room. */
export const offeredOptions = (
  options: InteractionDraft['options'],
): InteractionDraft['options'] => {
  const last = options.findLastIndex(({ text }) => text.trim() !== '');
  const many = Math.min(MOST_OPTIONS, Math.max(2, last + 2));
  return Array.from({ length: many }, (_, at) => options[at] ?? NO_OPTION);
};

/** An existing interaction, to be changed. */
export const draftOf = ({ text, does }: Interaction): InteractionDraft => {
  const begun = { ...NEW_DRAFT, is: does.is, text };
  if (does.is === 'link') return { ...begun, address: does.address };
  if (does.is !== 'question') return begun;
  const { asked, waits, told } = does;
  return {
    ...{ ...begun, by: asked.by, waits, says: told !== null },
    ...{ toRight: told?.right ?? '', toWrong: told?.wrong ?? '' },
    ...('options' in asked ? { options: asked.options } : {}),
    ...(asked.by === 'number'
      ? {
          number: asked.right === null ? '' : String(asked.right),
          within: String(asked.within),
          unit: asked.unit,
        }
      : {}),
  };
};

const askedIn = ({ by, options, number, within, unit }: InteractionDraft): Asked | string => {
  if (by === 'words') return { by };
  if (by === 'number') {
    const right = number.trim() === '' ? null : readNumber(number);
    const around = within.trim() === '' ? 0 : readNumber(within);
    if (number.trim() !== '' && right === null) return 'The right number can’t be read.';
    if (around === null || around < 0) return 'Give or take how much can’t be read.';
    return { by, right, within: around, unit };
  }
  const written = options.filter(({ text }) => text.trim() !== '');
  if (written.length < 2) return 'Write at least two answers to choose from.';
  if (by === 'one' && written.filter(({ right }) => right).length > 1)
    return 'Only one of them can be right; or let several be chosen.';
  return { by, options: written };
};

/** What a draft comes to: an interaction, or a sentence that says what is missing. */
export const interactionIn = (
  draft: InteractionDraft,
  at: Pick<Interaction, 'id' | 'takeId' | 'atUs'>,
): { readonly interaction: Interaction } | { readonly problem: string } => {
  const { is, text, address, waits, says, toRight, toWrong } = draft;
  if (text.trim() === '') return { problem: 'Nothing is written yet.' };
  const asked = askedIn(draft);
  if (is === 'question' && typeof asked === 'string') return { problem: asked };
  if (is === 'link' && !linkSchema.safeParse(address.trim()).success)
    return { problem: 'The address has to begin with https:// or http://.' };
  const does =
    is === 'question'
      ? { is, asked, waits, told: says ? { right: toRight, wrong: toWrong } : null }
      : is === 'link'
        ? { is, address: address.trim() }
        : { is };
  const made = interactionSchema.safeParse({ ...at, text, does });
  return made.success ? { interaction: made.data } : { problem: 'It is too long.' };
};
