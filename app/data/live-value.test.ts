import { act, renderHook } from '@testing-library/react';
import { LiveValue, usePart } from './live-value';

it('tells everyone who watches, with the new value already there to be read', () => {
  const value = new LiveValue(1);
  const seen: string[] = [];
  const end = value.subscribe(() => seen.push(`first ${value.view()}`));
  value.subscribe(() => seen.push(`second ${value.view()}`));
  value.set(2);
  end();
  value.set(3);
  expect(seen).toEqual(['first 2', 'second 2', 'second 3']);
});

it('lets one who watches end it while being told, and the others are told all the same', () => {
  const value = new LiveValue('before');
  const seen: string[] = [];
  const end = value.subscribe(() => {
    seen.push('once');
    end();
  });
  value.subscribe(() => seen.push(value.view()));
  value.set('after');
  value.set('later');
  expect(seen).toEqual(['once', 'after', 'later']);
});

it('renders again what shows a part of it only when that part is another one', () => {
  const recorder = new LiveValue({ state: 'recording', level: 0 });
  let renders = 0;
  const { result } = renderHook(() => {
    renders++;
    return usePart(recorder, ({ state }) => state);
  });
  for (let level = 1; level < 10; level++) act(() => recorder.set({ ...recorder.view(), level }));
  expect([result.current, renders]).toEqual(['recording', 1]);
  act(() => recorder.set({ state: 'paused', level: 0 }));
  expect([result.current, renders]).toEqual(['paused', 2]);
});
