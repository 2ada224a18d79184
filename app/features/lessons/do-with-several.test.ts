import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { call } from '../../data/client';
import { handOutSeveral } from './do-with-several';

jest.mock('../../data/client', () => ({ call: jest.fn() }));

const ANSWERS: Record<string, unknown> = {
  classes: [{ id: 'class-coast', name: 'Coastal navigation', students: 2 }],
  destinations: { destinations: [{ id: 'wall', size: '360p' }] },
  class: { students: [{ id: 'bram', name: 'Bram Okafor', address: '' }] },
  shareLink: { id: 'link-one' },
};
const lesson = (more: Partial<LessonRow>): LessonRow =>
  ({
    ...{ id: 'one', title: 'Tides', className: 'Coastal navigation', filmUs: 9e6 },
    ...{ handedOut: false, destinationId: 'wall', ...more },
  }) as LessonRow;

beforeEach(() =>
  jest
    .mocked(call)
    .mockReset()
    .mockImplementation(async (name) => ANSWERS[name] as never),
);

it('asks for the classes when it hands out, and does not take what the page knows', async () => {
  const done = await handOutSeveral([
    lesson({}),
    lesson({ id: 'two', className: 'Knots' }),
    lesson({ id: 'three', filmUs: 0 }),
    lesson({ id: 'four', handedOut: true }),
  ]);
  expect(done.title).toBe('One lesson handed out, each to its class.');
  expect(done.text).toBe(
    'One lesson left out: handed out already. One lesson left out: nothing in the film. One lesson left out: of no class with students.',
  );
  expect(jest.mocked(call).mock.calls.filter(([name]) => name === 'createShareLink')).toEqual([
    [
      'createShareLink',
      {
        params: { lessonId: 'one' },
        body: {
          size: '360p',
          grants: [
            {
              grantee: { is: 'class', classId: 'class-coast' },
              availableFrom: null,
              availableUntil: null,
            },
          ],
        },
      },
    ],
  ]);
});

it('hands none out while the classes are not to be had', async () => {
  jest.mocked(call).mockRejectedValue(new Error('no connection'));
  await expect(handOutSeveral([lesson({})])).rejects.toThrow('no connection');
});
