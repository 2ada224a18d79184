import { fromSeconds, type Us } from '../time/us';
import { inOrder, type Topic } from './topic';

/** How fast the prompter runs, words a minute. A lesson is spoken at 110 to 150. */
export const PROMPTER_SPEED = { least: 60, usual: 130, most: 240, step: 10 } as const;

/** A paragraph of the words to read, and where it stands among all of them. */
export interface PrompterPart {
  readonly topicId: string;
  readonly text: string;
  /** Words before it, and in it. */
  readonly before: number;
  readonly words: number;
}

/** Words as a reader counts them. */
export const countWords = (text: string): number => text.split(/\s+/).filter(Boolean).length;

/** Everything to read, paragraph by paragraph, in the order of the topics. Topics without words are left out. */
export const prompterParts = (topics: readonly Topic[]): PrompterPart[] => {
  const parts: PrompterPart[] = [];
  let before = 0;
  for (const topic of inOrder(topics)) {
    for (const text of topic.words.split(/\n+/)) {
      const words = countWords(text);
      if (words === 0) continue;
      parts.push({ topicId: topic.id, text: text.trim(), before, words });
      before += words;
    }
  }
  return parts;
};

/** Words in all parts. */
const wordsIn = (parts: readonly PrompterPart[]): number => {
  const last = parts.at(-1);
  return last ? last.before + last.words : 0;
};

/** How long it takes to say them at a speed, µs. */
export const readingUs = (parts: readonly PrompterPart[], wordsPerMinute: number): Us =>
  fromSeconds((wordsIn(parts) / wordsPerMinute) * 60);

/** Where a reader is: which part, and how far through it (0 to 1). */
export interface PrompterPlace {
  readonly part: number;
  readonly through: number;
}

/**
 * Where the reader is after a time of steady reading. After the last word it stays at the end.
 *
 * @param readUs time spent reading (not paused), µs
 */
export const placeAt = (
  parts: readonly PrompterPart[],
  readUs: Us,
  wordsPerMinute: number,
): PrompterPlace => {
  const read = Math.max(0, (readUs / 60_000_000) * wordsPerMinute);
  const at = parts.findIndex((part) => read < part.before + part.words);
  if (at < 0) return { part: Math.max(0, parts.length - 1), through: parts.length > 0 ? 1 : 0 };
  const part = parts[at]!;
  return { part: at, through: (read - part.before) / part.words };
};

/** Where a reader stands who follows the topics done: at the first words of the topic that is next. */
export const placeOfTopic = (
  parts: readonly PrompterPart[],
  topics: readonly Topic[],
  nextTopicId: string | null,
): PrompterPlace => {
  if (nextTopicId === null) return { part: Math.max(0, parts.length - 1), through: 1 };
  const order = inOrder(topics).map((topic) => topic.id);
  const from = order.indexOf(nextTopicId);
  // A topic with nothing to read stands where the next words are.
  const at = parts.findIndex((part) => order.indexOf(part.topicId) >= from);
  return at < 0 ? { part: Math.max(0, parts.length - 1), through: 1 } : { part: at, through: 0 };
};

/** The reading time that stands for a place: so that changing the speed does not make the words jump. */
export const readUsAt = (
  parts: readonly PrompterPart[],
  place: PrompterPlace,
  wordsPerMinute: number,
): Us => {
  const part = parts[place.part];
  if (!part) return 0;
  return fromSeconds(((part.before + place.through * part.words) / wordsPerMinute) * 60);
};
