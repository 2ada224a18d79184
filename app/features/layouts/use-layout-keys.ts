import { useEffect, useEffectEvent } from 'react';
import type { Layout } from '@under-chalk/core/lesson/layout';
import { isTyping } from '../../ui/is-typing';
import { useSavedLayouts } from './use-saved-layouts';

/**
 * Sets one of the teacher's own layouts by the keys 1, 2 and 3.
 *
 * @param taken keys that do something else
 */
export const useLayoutKeys = (
  enabled: boolean,
  taken: readonly string[],
  onChoose: (layout: Layout) => void,
): void => {
  const { kept } = useSavedLayouts();
  const press = useEffectEvent((event: KeyboardEvent) => {
    const { key, ctrlKey, metaKey, altKey, repeat } = event;
    if (!/^[1-9]$/.test(key) || taken.includes(key) || isTyping(event.target)) return;
    const one = kept[Number(key) - 1];
    if (!one || ctrlKey || metaKey || altKey || repeat) return;
    event.preventDefault();
    onChoose(one.layout);
  });
  useEffect(() => {
    if (!enabled) return undefined;
    const heard = (event: KeyboardEvent) => press(event);
    document.addEventListener('keydown', heard);
    return () => document.removeEventListener('keydown', heard);
  }, [enabled]);
};
