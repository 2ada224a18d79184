import type { Us } from '../../time/us';

/** Words that are said together or not at all: for each written word, how each of the words that it is said as may sound. */
export interface Unit {
  readonly words: readonly (readonly Pronunciations[])[];
}
/** Ways to say one word, each a list of phones with spaces between (ARPAbet, as CMUdict has it). */
export type Pronunciations = readonly string[];

/** A word that was heard in a stretch of sound. */
export interface HeardWord {
  readonly unit: number;
  readonly word: number;
  readonly startUs: Us;
  readonly endUs: Us;
  /** How well it sounded like that, by the frame; only to be compared with others. */
  readonly score: number;
}

/** What was heard: words of the units, and speech that is in none of them. */
export interface Heard {
  readonly words: readonly HeardWord[];
  readonly other: readonly { readonly startUs: Us; readonly endUs: Us; readonly phones: number }[];
}

/** Phones that stand for speech that isn't written. A third of all is enough to be nearer to it than any wrong word. */
const OTHER_PHONES = 'AH IY EH AA OW UW S T K N M L R B V'.split(' ');
/** What one of those costs, against a written word; and leaving a unit out. */
const OTHER_COST = '1e-6';
const SKIP_COST = '1e-20';
/** What it costs to end within a unit. */
const CUT_OFF_COST = '1e-3';

/** A grammar and the dictionary that it is said with, as text (Sphinx's FSG and dictionary forms). */
export interface Grammar {
  readonly fsg: string;
  readonly dictionary: string;
}

const wordName = (unit: number, word: number, part: number): string => `w${unit}_${word}_${part}`;

/**
 * A grammar of units one after another, each said once or left out, with speech that isn't written before any of them and at the end. It
 * may end anywhere: what comes after a stretch of sound isn't said in it.
 */
export const grammarOf = (units: readonly Unit[]): Grammar => {
  const arcs: string[] = [];
  const dictionary: string[] = [];
  let state = 0;
  const starts: number[] = [];
  const inside: number[] = [];
  units.forEach((unit, unitAt) => {
    starts.push(state);
    unit.words.forEach((parts, word) =>
      parts.forEach((ways, part) => {
        const name = wordName(unitAt, word, part);
        ways.forEach((phones, way) =>
          dictionary.push(`${way === 0 ? name : `${name}(${way + 1})`} ${phones}`),
        );
        arcs.push(`TRANSITION ${state} ${state + 1} 1.0 ${name}`);
        state++;
        inside.push(state);
      }),
    );
  });
  starts.push(state);
  const end = state + 1;
  for (const phone of OTHER_PHONES) dictionary.push(`_${phone} ${phone}`);
  // The sound may end in the middle of one.
  for (const at of inside)
    if (!starts.includes(at)) arcs.push(`TRANSITION ${at} ${end} ${CUT_OFF_COST}`);
  starts.forEach((at, index) => {
    const next = starts[index + 1];
    if (next !== undefined && next !== at) arcs.push(`TRANSITION ${at} ${next} ${SKIP_COST}`);
    arcs.push(`TRANSITION ${at} ${end} 1.0`);
    for (const phone of OTHER_PHONES) arcs.push(`TRANSITION ${at} ${at} ${OTHER_COST} _${phone}`);
  });
  return {
    fsg: `FSG_BEGIN script\nNUM_STATES ${end + 1}\nSTART_STATE 0\nFINAL_STATE ${end}\n${arcs.join('\n')}\nFSG_END\n`,
    dictionary: `${dictionary.join('\n')}\n`,
  };
};

/** A frame of the recogniser, µs. */
const FRAME_US = 10_000;

/** Something that the recogniser heard, by its name in the dictionary. */
export interface Segment {
  readonly name: string;
  readonly atUs: Us;
  readonly untilUs: Us;
  /** By the frame. */
  readonly score: number;
}

/**
 * Reads what the recogniser heard, word for word (its `hypseg` form: after `T`, `A` and `L` four fields a segment, of which the first is its first
 * frame, and the second its score).
 *
 * @param endUs where the sound ends
 */
export const readSegments = (line: string, endUs: Us): Segment[] => {
  const fields = line.trim().split(/\s+/);
  const from = fields.indexOf('L') + 2;
  const segments: { atUs: Us; score: number; name: string }[] = [];
  if (from > 1) {
    for (let at = from; at + 3 < fields.length; at += 4) {
      segments.push({
        atUs: Number(fields[at]) * FRAME_US,
        score: Number(fields[at + 1]),
        name: fields[at + 3]!.replace(/\(\d+\)$/, ''),
      });
    }
  }
  return segments.map(({ atUs, score, name }, index) => {
    const untilUs = segments.slice(index + 1).find((later) => later.atUs > atUs)?.atUs ?? endUs;
    return { name, atUs, untilUs, score: score / Math.max(1, (untilUs - atUs) / FRAME_US) };
  });
};

/**
 * What was heard of the units of a grammar.
 *
 * @param endUs where the sound ends
 */
export const readHeard = (line: string, endUs: Us): Heard => {
  const words: HeardWord[] = [];
  const other: { startUs: Us; endUs: Us; phones: number }[] = [];
  for (const { name, atUs, untilUs: nextUs, score } of readSegments(line, endUs)) {
    const read = /^w(\d+)_(\d+)_(\d+)$/.exec(name);
    if (read) {
      const [unit, word, part] = read.slice(1).map(Number) as [number, number, number];
      const last = words.at(-1);
      if (part > 0 && last?.unit === unit && last.word === word) {
        words[words.length - 1] = {
          ...last,
          endUs: nextUs,
          score: Math.min(last.score, score),
        };
      } else words.push({ unit, word, startUs: atUs, endUs: nextUs, score: score });
    } else if (name.startsWith('_')) {
      const last = other.at(-1);
      // Small silences between its sounds belong to it.
      if (last && atUs - last.endUs < 300_000 && (words.at(-1)?.endUs ?? 0) <= last.startUs) {
        other[other.length - 1] = { ...last, endUs: nextUs, phones: last.phones + 1 };
      } else other.push({ startUs: atUs, endUs: nextUs, phones: 1 });
    }
  }
  return { words, other };
};
