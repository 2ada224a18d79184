/** @jest-environment node */
import { isUnanswered, untilAnswered } from './until-answered';

const v8 = jest.requireActual<{ setFlagsFromString(flags: string): void }>('node:v8');
const vm = jest.requireActual<{ runInNewContext(code: string): unknown }>('node:vm');
v8.setFlagsFromString('--expose-gc');
const collectGarbage = vm.runInNewContext('gc') as () => void;
const turns = () => new Promise<void>((resolve) => setTimeout(resolve));

/** Answers as Chromium's handles do: not when nothing refers to them any more. */
class Handle {
  #answer: ((name: string) => void) | null = null;
  open(): Promise<string> {
    return new Promise((resolve) => {
      this.#answer = resolve;
    });
  }
  answer(name: string): void {
    this.#answer?.(name);
  }
}
const asked = () => {
  const handle = new Handle();
  return { later: new WeakRef(handle), answer: untilAnswered(handle, (the) => the.open()) };
};

it('holds a handle until it has answered, though nobody else does', async () => {
  const { later, answer } = asked();
  await turns();
  collectGarbage();
  later.deref()!.answer('opened');
  expect(await answer).toBe('opened');
  await turns();
  collectGarbage();
  expect(later.deref()).toBeUndefined();
});

it('passes on what went wrong', () =>
  expect(untilAnswered({}, () => Promise.reject(new Error('no room')))).rejects.toThrow('no room'));

it('gives up on one that never answers, and lets go of what comes all the same', async () => {
  jest.useFakeTimers();
  try {
    const handle = new Handle();
    const late: string[] = [];
    const answer = untilAnswered(
      handle,
      (the) => the.open(),
      (given) => late.push(given),
    );
    const failed = answer.catch((error: unknown) => error);
    await jest.advanceTimersByTimeAsync(4_900);
    expect(late).toEqual([]);
    await jest.advanceTimersByTimeAsync(200);
    expect(isUnanswered(await failed)).toBe(true);
    handle.answer('opened after all');
    await jest.advanceTimersByTimeAsync(0);
    expect(late).toEqual(['opened after all']);
  } finally {
    jest.useRealTimers();
  }
});
