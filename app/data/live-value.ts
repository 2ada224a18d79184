import { useSyncExternalStore } from 'react';

/** What can be watched: a value that changes. */
export interface Watched<T> {
  /** @returns ends it */
  readonly subscribe: (listener: () => void) => () => void;
  readonly view: () => T;
}

/** A value that changes, for as many as watch it. */
export class LiveValue<T> implements Watched<T> {
  #value: T;
  readonly #listeners = new Set<() => void>();

  constructor(value: T) {
    this.#value = value;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly view = (): T => this.#value;

  set(value: T): void {
    this.#value = value;
    this.#listeners.forEach((listener) => listener());
  }
}

/**
 * Part of a value that changes. Only another part renders again, and not every change of the whole: a
 * level changes fifteen times a second, and the page around it should not.
 *
 * @param part gives a number, words, or something in the value that stays the same object while it is the
 *   same; never an object made anew
 */
export const usePart = <T, P>({ subscribe, view }: Watched<T>, part: (value: T) => P): P => {
  const read = () => part(view());
  return useSyncExternalStore(subscribe, read, read);
};
