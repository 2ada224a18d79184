import { useCallback, useRef, useState } from 'react';
import type * as z from 'zod';

/** A setting of this device, kept in the browser; what is found there is checked like anything from outside. */
export const readSetting = <T>(key: string, schema: z.ZodType<T>, first: T): T => {
  try {
    const kept = schema.safeParse(JSON.parse(localStorage.getItem(key) ?? 'null'));
    return kept.success ? kept.data : first;
  } catch {
    // Storage can be closed to us (a private window), and what is in it can be anything.
    return first;
  }
};

/** Whether anything is kept under a name. */
export const hasSetting = (key: string): boolean => {
  try {
    return localStorage.getItem(key) !== null;
  } catch {
    return false;
  }
};

export const writeSetting = (key: string, value: unknown): void => {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // Not remembered; nothing else is lost.
  }
};

/** The same as state. */
export const useSetting = <T>(
  key: string,
  schema: z.ZodType<T>,
  first: T,
): [T, (value: T) => void] => {
  const [value, setValue] = useState(() => readSetting(key, schema, first));
  const set = useCallback(
    (next: T) => {
      setValue(next);
      writeSetting(key, next);
    },
    [key],
  );
  return [value, set];
};

export interface Kept<T> {
  readonly kept: T;
  /** The same as it is this moment, for what goes on between two drawings of a page. */
  readonly latest: () => T;
  readonly change: (how: (before: T) => T) => void;
}

/** What is done to a value is done to what it is by then, and kept at once: of work that goes on while somebody types. */
export const useKept = <T>(key: string, schema: z.ZodType<T>, first: () => T): Kept<T> => {
  const [kept, setKept] = useState(() => readSetting(key, schema, first()));
  const held = useRef(kept);
  const latest = useCallback(() => held.current, []);
  const change = useCallback(
    (how: (before: T) => T) => {
      held.current = how(held.current);
      writeSetting(key, held.current);
      setKept(held.current);
    },
    [key],
  );
  return { kept, latest, change };
};
