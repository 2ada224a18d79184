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

export const COURSE = { id: 'coastal-4', title: 'Coastal navigation for beginners' } as const;
export const WEEKS = ['Week 1', 'Week 2', 'Week 3', 'Week 4'] as const;

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
      }),
      /** A frame that was pasted. */
      z.object({ is: z.literal('frame'), address: z.string() }),
    ]),
  })
  .readonly();
export type Item = z.infer<typeof itemSchema>;

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
