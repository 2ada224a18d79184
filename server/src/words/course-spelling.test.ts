import { lessonOf } from '@under-chalk/core/testing/lessons';
import { spelledByCourse, textsOfCourse } from './course-spelling';

const heard = (text: string, sure = 90) =>
  text
    .split(' ')
    .map((word, at) => ({ text: word, startUs: at * 1e6, endUs: at * 1e6 + 8e5, sure }));

it('a draft is spelled as the course spells its own words, by how English sounds', async () => {
  const lesson = lessonOf([], {
    plan: {
      ...{ title: 'From Lantern Quay', description: '', className: '', unit: '' },
      destinationId: 'free',
    },
    topics: [{ id: 'topic-one', text: 'The rule of twelfths', show: '', words: '', rank: 1 }],
    cues: [
      {
        language: 'en',
        cue: {
          ...{ id: 'cue-draft', takeId: 'take-one', startUs: 0, endUs: 1e6, text: 'Wharfinger' },
          ...{ words: null, timed: 'by-voice', draft: true },
        },
      },
    ],
  });
  const texts = textsOfCourse(lesson, ['Ask Captain Oreline']);
  // What nobody has looked at teaches nothing.
  expect(texts).not.toContain('Wharfinger');
  const spelled = async (text: string, sure?: number) => {
    const found = await spelledByCourse(heard(text, sure), texts);
    return [found.heard.map((word) => word.text).join(' '), found.changed];
  };
  expect(await spelled('we leave the lantern key')).toEqual([
    'we leave the Lantern Quay',
    ['Quay'],
  ]);
  // A name that is in no dictionary sounds as a synthesizer says it.
  expect((await spelled('ask captain oreline'))[0]).toBe('ask Captain Oreline');
  expect(await spelled('nothing of that')).toEqual(['nothing of that', []]);
  expect(await spelledByCourse(heard('the key'), [])).toMatchObject({ changed: [] });
});

it('stops when it is called off', async () => {
  const stop = AbortSignal.abort(new Error('enough'));
  await expect(spelledByCourse(heard('the key'), ['Lantern Quay'], stop)).rejects.toThrow('enough');
});
