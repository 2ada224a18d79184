import { useEffect, useEffectEvent } from 'react';
import type { Arrangement } from '@under-chalk/core/lesson/arrangement';
import { isTyping } from '../../ui/is-typing';
import { useKeptArrangements } from './use-kept-arrangements';

/**
 * Sets one of the teacher's own arrangements by the keys 1, 2 and 3.
 *
 * @param taken keys that do something else
 */
export const useArrangementKeys = (
  enabled: boolean,
  taken: readonly string[],
  onChoose: (arrangement: Arrangement) => void,
): void => {
  const { kept } = useKeptArrangements();
  const press = useEffectEvent((event: KeyboardEvent) => {
    const { key, ctrlKey, metaKey, altKey, repeat } = event;
    if (!/^[1-9]$/.test(key) || taken.includes(key) || isTyping(event.target)) return;
    const one = kept[Number(key) - 1];
    if (!one || ctrlKey || metaKey || altKey || repeat) return;
    event.preventDefault();
    onChoose(one.arrangement);
  });
  useEffect(() => {
    if (!enabled) return undefined;
    const heard = (event: KeyboardEvent) => press(event);
    document.addEventListener('keydown', heard);
    return () => document.removeEventListener('keydown', heard);
  }, [enabled]);
};
