import * as z from 'zod';

/** Somebody who goes to the practice course site. */
export interface Person {
  readonly id: string;
  readonly name: string;
  readonly address: string;
  readonly teaches: boolean;
}

const person = (name: string, teaches = false): Person => ({
  ...{ name, teaches, id: name.split(' ')[0]!.toLowerCase() },
  address: `${name.split(' ')[0]!.toLowerCase()}@lantern-quay.example`,
});

export const PEOPLE: readonly Person[] = [
  person('Ottilie Marsh', true),
  person('Bram Okafor'),
  person('Sunniva Petel'),
  person('Ines Carrow'),
  person('Tomas Wray'),
  person('Wen Castellan'),
];

/** What tools know somebody by. */
export const userIdOf = ({ id }: Person): string => `practice-${id}`;

export const COURSE = { id: 'coastal-4', title: 'Coastal navigation for beginners' } as const;
export const WEEKS = ['Week 1', 'Week 2', 'Week 3', 'Week 4'] as const;
export type Week = (typeof WEEKS)[number];

/** Something that stands in a week of the course. */
export const itemSchema = z
  .object({
    id: z.string(),
    week: z.enum(WEEKS),
    title: z.string(),
    shows: z.discriminatedUnion('is', [
      /** A link of a tool's, opened by a launch. */
      z.object({
        is: z.literal('tool'),
        address: z.string(),
        custom: z.record(z.string(), z.string()),
        /** The column of scores that goes with it. */
        columnId: z.string().nullable().default(null),
      }),
      /** A frame that was pasted. */
      z.object({ is: z.literal('frame'), address: z.string() }),
      /** Something to be handed in: a film as a file, of so many bytes and seconds at most. */
      z.object({
        is: z.literal('assignment'),
        text: z.string(),
        mostBytes: z.number().int().positive(),
        mostSeconds: z.number().positive(),
      }),
    ]),
  })
  .readonly();
export type Item = z.infer<typeof itemSchema>;
export type Assignment = Extract<Item['shows'], { is: 'assignment' }>;

/** Something new in the course: words, and a frame where one was pasted. */
export const newsSchema = z
  .object({ ...{ id: z.string(), text: z.string() }, address: z.string().nullable() })
  .readonly();
export type News = z.infer<typeof newsSchema>;

/** A column of scores (LTI Assignment and Grade Services 2.0, a line item). */
export const columnSchema = z
  .object({
    ...{ id: z.string(), label: z.string(), most: z.number().positive() },
    ...{ resourceId: z.string(), tag: z.string() },
  })
  .readonly();
export type Column = z.infer<typeof columnSchema>;

/** What a tool says of somebody in a column. */
export const scoreSchema = z
  .object({
    ...{ columnId: z.string(), userId: z.string(), at: z.string() },
    ...{ given: z.number().nullable(), most: z.number().nullable() },
    ...{ progress: z.string(), grading: z.string() },
  })
  .readonly();
export type Score = z.infer<typeof scoreSchema>;

/** A file that was handed in. */
export const handedInSchema = z
  .object({
    ...{ id: z.string(), itemId: z.string(), personId: z.string(), name: z.string() },
    ...{ bytes: z.number(), seconds: z.number(), at: z.string() },
  })
  .readonly();
export type HandedIn = z.infer<typeof handedInSchema>;

/** A tool that the course has: what it said of itself, or what was typed in. */
export const toolSchema = z
  .object({
    /** What it is known by here. */
    clientId: z.string(),
    ...{ name: z.string(), login: z.string(), keys: z.string(), target: z.string() },
    redirects: z.array(z.string()),
  })
  .readonly();
export type Tool = z.infer<typeof toolSchema>;

/** The frame in a piece of code that somebody pastes: its address, and what it is called; null where there is none. */
export const frameIn = (
  code: string,
): { readonly address: string; readonly title: string } | null => {
  const [frame] = /<iframe\s[^>]*>/i.exec(code) ?? [];
  const of = (name: string) =>
    new RegExp(`\\s${name}="([^"]*)"`, 'i').exec(frame ?? '')?.[1]?.replaceAll('&amp;', '&') ?? '';
  const address = of('src');
  return /^https?:\/\//.test(address) ? { address, title: of('title') || 'A page' } : null;
};
