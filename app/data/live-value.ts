/** A value that changes, as React's `useSyncExternalStore` watches one. */
export class LiveValue<T> {
  #value: T;
  readonly #listeners = new Set<() => void>();

  constructor(value: T) {
    this.#value = value;
  }

  /** @returns ends it */
  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly read = (): T => this.#value;

  set(value: T): void {
    this.#value = value;
    this.#listeners.forEach((listener) => listener());
  }
}
