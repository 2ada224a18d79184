import { useEffect, useRef } from 'react';
import {
  actionOf,
  shortcutsSchema,
  USUAL_SHORTCUTS,
  type ShortcutAction,
  type Shortcuts,
} from '@under-chalk/core/record/shortcuts';
import { isTyping } from '../../ui/is-typing';
import { useSetting } from '../../data/kept-setting';

export const useShortcutSetting = (): [Shortcuts, (shortcuts: Shortcuts) => void] =>
  useSetting<Shortcuts>('under-chalk keys', shortcutsSchema, USUAL_SHORTCUTS);

/** Does what a key stands for, wherever the focus is, unless something is being typed. */
export const useShortcuts = (
  shortcuts: Shortcuts,
  does: Partial<Record<ShortcutAction, () => void>>,
): void => {
  const latest = useRef(does);
  useEffect(() => {
    latest.current = does;
  });
  useEffect(() => {
    const heard = (event: KeyboardEvent) => {
      const action = actionOf(event, shortcuts, isTyping(event.target));
      const act = action && latest.current[action];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener('keydown', heard);
    return () => document.removeEventListener('keydown', heard);
  }, [shortcuts]);
};
