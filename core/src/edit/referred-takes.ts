import type { Id } from '../lesson/take';
import type { Decisions } from './decisions';

/** Every take that decisions refer to, each once: placed, shown as a cutaway, heard as a re-recorded voice, or on the cover. */
export const referredTakes = ({
  placements,
  cutaways,
  voiceOvers,
  cover,
}: Pick<Decisions, 'placements' | 'cutaways' | 'voiceOvers' | 'cover'>): Id[] => [
  ...new Set([
    ...placements.map(({ takeId }) => takeId),
    ...cutaways.flatMap(({ of }) => ('takeId' in of ? [of.takeId] : [])),
    ...voiceOvers.map(({ by }) => by.takeId),
    ...(cover.of !== null && 'takeId' in cover.of ? [cover.of.takeId] : []),
  ]),
];
