import { act, renderHook } from '@testing-library/react';
import { useStay } from './use-stay';

/** Going back is told a moment later, as in a browser. */
const goneBack = async (steps = 1) => {
  await act(async () => {
    const told = new Promise((resolve) => addEventListener('popstate', resolve, { once: true }));
    history.go(-steps);
    await told;
  });
};
const settled = () => act(() => new Promise((resolve) => setTimeout(resolve, 50)));

beforeEach(() => {
  history.pushState({ id: 'lessons' }, '', '/lessons');
  history.pushState({ id: 'plan' }, '', '/lessons/one/plan');
  history.pushState({ id: 'record' }, '', '/lessons/one/record');
});

it('lets the page be left while nothing is recorded', async () => {
  const { result, unmount } = renderHook(() => useStay(false));
  await goneBack();
  expect(result.current.asked).toBe(false);
  expect(location.pathname).toBe('/lessons/one/plan');
  unmount();
});

it('asks, as often as someone goes back, and stays where it is', async () => {
  const { result, unmount } = renderHook(() => useStay(true));
  for (let times = 0; times < 2; times++) {
    await goneBack();
    expect(result.current.asked).toBe(true);
    expect(location.pathname).toBe('/lessons/one/record');
    expect(history.state).toEqual({ id: 'record' });
    act(() => result.current.stay());
    expect(result.current.asked).toBe(false);
  }
  unmount();
  await settled();
});

it('leaves the history as it found it when recording has ended', async () => {
  const { rerender, unmount } = renderHook(({ on }) => useStay(on), {
    initialProps: { on: true },
  });
  rerender({ on: false });
  await settled();
  expect(location.pathname).toBe('/lessons/one/record');
  await goneBack();
  expect(location.pathname).toBe('/lessons/one/plan');
  unmount();
});

it('goes back to the page before when that was wanted, as soon as recording has ended', async () => {
  const { result, rerender, unmount } = renderHook(({ on }) => useStay(on), {
    initialProps: { on: true },
  });
  await goneBack();
  act(() => result.current.leave());
  expect(location.pathname).toBe('/lessons/one/record');
  rerender({ on: false });
  await settled();
  expect(location.pathname).toBe('/lessons/one/plan');
  unmount();
});

it('has the browser ask before the tab is closed, only while it records', () => {
  const asks = () => !dispatchEvent(new Event('beforeunload', { cancelable: true }));
  const { rerender, unmount } = renderHook(({ on }) => useStay(on), { initialProps: { on: true } });
  expect(asks()).toBe(true);
  rerender({ on: false });
  expect(asks()).toBe(false);
  unmount();
});
