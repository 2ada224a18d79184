import { signsIn } from './cue';

/** Most signs a line: as many as the eye takes in at once without leaving the picture, and as fit on a phone. */
export const MOST_IN_LINE = 42;
/** Most lines at a time: a third would cover what is shown. */
export const MOST_LINES = 2;

/** A word that no line holds, in parts that one does. Nothing but scripts without spaces and addresses are so long. */
const parted = (word: string, most: number): string[] => {
  const signs = [...word];
  return Array.from({ length: Math.ceil(signs.length / most) }, (_, at) =>
    signs.slice(at * most, (at + 1) * most).join(''),
  );
};

/** What a break after a word costs, against lines of unlike length: the end of a clause is a good place. */
const breakCost = (word: string): number =>
  /[.!?…;:]["”’)]?$/.test(word) ? -120 : /,["”’)]?$/.test(word) ? -80 : 0;
/** Words that belong to what follows them. */
const CLINGS =
  /^(a|an|the|of|to|in|on|at|by|for|and|or|but|with|from|der|die|das|ein|eine|und|le|la|les|de|du|des|et|el|los|las|y|i|w|z)$/i;

/** One paragraph in as few lines as hold it, of about the same length, and broken where a clause ends if that is near. */
const broken = (text: string, most: number): string[] => {
  const words = text
    .split(/\s+/)
    .filter(Boolean)
    .flatMap((word) => parted(word, most));
  const lengths = words.map(signsIn);
  // Fewest lines first; then the least of the squares of what is missing in each.
  const best: { lines: number; cost: number; from: number }[] = [{ lines: 0, cost: 0, from: 0 }];
  for (let end = 1; end <= words.length; end++) {
    let length = -1;
    let found: (typeof best)[number] | null = null;
    for (let from = end - 1; from >= 0; from--) {
      length += lengths[from]! + 1;
      if (length > most) break;
      const before = best[from]!;
      const last = end === words.length;
      const place = last
        ? 0
        : breakCost(words[end - 1]!) + (CLINGS.test(words[end - 1]!) ? 100 : 0);
      const cost = before.cost + (most - length) ** 2 + place;
      const lines = before.lines + 1;
      if (!found || lines < found.lines || (lines === found.lines && cost < found.cost)) {
        found = { lines, cost, from };
      }
    }
    best.push(found!);
  }
  const lines: string[] = [];
  for (let end = words.length; end > 0; end = best[end]!.from) {
    lines.unshift(words.slice(best[end]!.from, end).join(' '));
  }
  return lines;
};

/** The lines that a text is shown in. Breaks that somebody has set stay; what is longer than a line is broken further. */
export const captionLines = (text: string, most: number = MOST_IN_LINE): string[] =>
  text
    .split('\n')
    .filter((part) => part.trim() !== '')
    .flatMap((part) => broken(part, most));

/** How many signs fit into one cue. */
export const MOST_IN_CUE = MOST_IN_LINE * MOST_LINES;

/** Whether a text fits into the lines that one cue has. */
export const fitsOneCue = (text: string): boolean => captionLines(text).length <= MOST_LINES;
