import { render } from '@testing-library/react';
import type { Recorder } from '../../capture/recorder';
import { RecoveredNotices } from './recovered-notices';

const shown = (recovered: object, over = false) => {
  const view = { recovered };
  const recorder = { subscribe: () => () => undefined, view: () => view } as unknown as Recorder;
  return render(<RecoveredNotices recorder={recorder} over={over} />).container.textContent;
};

it('tells of several that stumbled alike in one sentence', () =>
  expect(shown({ surface: 'again', camera: 'again', voice: 'again' })).toContain(
    'The picture of what is shown, the camera’s picture and the voice stumbled for a moment, and go on.',
  ));
it('names them in one order, whichever failed first', () =>
  expect(shown({ voice: 'again', camera: 'again', surface: 'again' })).toBe(
    shown({ surface: 'again', camera: 'again', voice: 'again' }),
  ));
it('tells the gravest first', () => {
  const text = shown({ surface: 'simpler', camera: 'gone' })!;
  expect(text.indexOf('The camera’s picture can’t be recorded any more.')).toBe(0);
  expect(text).toContain('The picture of what is shown stumbled for a moment, and goes on.');
  expect(text).toContain('in a simpler form');
});
it('tells of a take that has ended as of something that was', () =>
  expect(shown({ camera: 'gone', voice: 'again' }, true)).toBe(
    'The camera’s picture broke off before the end.What had been recorded until then is there. Record that stretch again if it is needed.The voice stumbled for a moment.Up to a second may be missing: listen to it in Tidy.',
  ));
it('says nothing where nothing happened', () => expect(shown({})).toBe(''));
