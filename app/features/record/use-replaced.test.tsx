import { renderHook } from '@testing-library/react';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { Recorder } from '../../capture/recorder';
import { useReplaced } from './use-replaced';
import type { Sources } from './use-sources';

const stream = (name: string, { sound = false, picture = true } = {}) =>
  ({
    getVideoTracks: () => (picture ? [`${name}’s picture`] : []),
    getAudioTracks: () => (sound ? [`${name}’s sound`] : []),
  }) as unknown as MediaStream;

interface Open {
  readonly recording: boolean;
  readonly screen?: MediaStream | null;
  readonly camera?: MediaStream | null;
  readonly voice?: MediaStream | null;
}

const watch = (first: Open) => {
  const replaced: [TrackKind, unknown][] = [];
  const recorder = {
    replace: (kind: TrackKind, track: unknown) => replaced.push([kind, track]),
  } as unknown as Recorder;
  const { rerender } = renderHook(
    ({ recording, ...open }: Open) =>
      useReplaced(recorder, recording, {
        ...{ screen: null, camera: null, voice: null },
        ...open,
      } as unknown as Sources),
    { initialProps: first },
  );
  return { rerender, replaced };
};

it('changes nothing before a recording, nor at its start', () => {
  const screen = stream('one');
  const { rerender, replaced } = watch({ recording: false, screen });
  const other = stream('other');
  rerender({ recording: false, screen: other });
  rerender({ recording: true, screen: other });
  expect(replaced).toEqual([]);
});

it('puts another surface in the place of the first, with its sound', () => {
  const { rerender, replaced } = watch({ recording: true, screen: stream('one') });
  replaced.length = 0;
  const two = stream('two', { sound: true });
  rerender({ recording: true, screen: two });
  rerender({ recording: true, screen: two });
  expect(replaced).toEqual([
    ['surface', 'two’s picture'],
    ['computer-sound', 'two’s sound'],
  ]);
});

it('takes up a microphone and a camera that have gone and come back', () => {
  const voice = stream('old', { sound: true, picture: false });
  const { rerender, replaced } = watch({ recording: false, voice, camera: stream('face') });
  rerender({ recording: true, voice, camera: null });
  rerender({ recording: true, voice: null, camera: null });
  const back = stream('new', { sound: true, picture: false });
  rerender({ recording: true, voice: back, camera: stream('face again') });
  expect(replaced).toEqual([
    ['camera', 'face again’s picture'],
    ['voice', 'new’s sound'],
  ]);
});
