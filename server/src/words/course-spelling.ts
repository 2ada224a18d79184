import type { Lesson } from '@under-chalk/core/lesson/lesson';
import {
  courseWordsOf,
  plainWord,
  spelledAs,
  type Spelled,
} from '@under-chalk/core/words/course-words';
import type { HeardText } from '@under-chalk/core/words/drafted';
import { pronunciationsOf } from './pronunciations';

/** What a course says of itself: its outline and its captions that somebody has looked through, and its materials. */
export const textsOfCourse = ({ decisions }: Lesson, materials: readonly string[]): string[] => {
  const { plan, topics, cues } = decisions;
  return [
    ...[plan.title, plan.unit, plan.className, plan.description],
    ...topics.flatMap(({ text, words }) => [text, words]),
    ...cues.flatMap(({ cue }) => (cue.draft ? [] : [cue.text])),
    ...materials,
  ];
};

/** A draft of English, spelled as a course spells its own words. @throws the signal's reason */
export const spelledByCourse = async (
  heard: readonly HeardText[],
  texts: readonly string[],
  signal?: AbortSignal,
): Promise<Spelled> => {
  const course = courseWordsOf(texts);
  if (course.length === 0) return { heard, changed: [] };
  const sounds = new Map<string, string[][]>();
  for (const word of new Set([...course, ...heard.map(({ text }) => text)].map(plainWord))) {
    signal?.throwIfAborted();
    const said = await pronunciationsOf(word, signal);
    sounds.set(
      word,
      said.map((one) => one.split(' ')),
    );
  }
  return spelledAs(heard, course, (word) => sounds.get(word) ?? []);
};
