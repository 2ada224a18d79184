import * as z from 'zod';

/** What can be done by a key while recording, with the words for it. */
export const SHORTCUT_ACTIONS = {
  pause: 'Pause, and go on',
  stop: 'Stop',
  flub: 'Mark a flub',
  again: 'Say that again',
  tick: 'Mark the topic done, go to the next',
  camera: 'Camera off, and on',
  layout: 'Next layout',
  prompter: 'Prompter: hold, and go on',
} as const;
export type ShortcutAction = keyof typeof SHORTCUT_ACTIONS;
const ACTIONS = Object.keys(SHORTCUT_ACTIONS) as ShortcutAction[];

/** A key by its name in the UI Events specification: a letter in small, `Escape`, `ArrowDown`… */
const keySchema = z.string().min(1).max(20);
export const shortcutsSchema = z.record(
  z.enum(ACTIONS as [ShortcutAction, ...ShortcutAction[]]),
  keySchema,
);
export type Shortcuts = Readonly<Record<ShortcutAction, string>>;

export const USUAL_SHORTCUTS: Shortcuts = {
  pause: 'p',
  stop: 's',
  flub: 'f',
  again: 'r',
  tick: 'n',
  camera: 'c',
  layout: 'a',
  prompter: 'h',
};

/** A key as it was pressed. */
export interface KeyPress {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly altKey: boolean;
  readonly repeat: boolean;
}

const nameOf = (key: string) => (key.length === 1 ? key.toLowerCase() : key);

/**
 * What a key does. Nothing with Control, Alt or Meta (those are the browser's), nothing for a key held
 * down, and nothing while something is being typed.
 */
export const actionOf = (
  press: KeyPress,
  shortcuts: Shortcuts,
  typing: boolean,
): ShortcutAction | null => {
  if (typing || press.repeat || press.ctrlKey || press.metaKey || press.altKey) return null;
  const key = nameOf(press.key);
  return ACTIONS.find((action) => shortcuts[action] === key) ?? null;
};

/** Keys that move the focus, press what is focused or scroll: they are never shortcuts. */
const TAKEN = ['Tab', 'Enter', ' ', 'Shift', 'Control', 'Alt', 'Meta', 'ArrowUp', 'ArrowDown'];

/** Gives an action another key. One that had the key gets the old one in return; a key that can't be one changes nothing. */
export const withShortcut = (
  shortcuts: Shortcuts,
  action: ShortcutAction,
  pressed: string,
): Shortcuts => {
  const key = nameOf(pressed);
  if (TAKEN.includes(key) || key.length > 20) return shortcuts;
  const had = ACTIONS.find((other) => shortcuts[other] === key);
  return { ...shortcuts, ...(had ? { [had]: shortcuts[action] } : {}), [action]: key };
};

/** A key as it is printed on a card. */
export const keyName = (key: string): string => (key.length === 1 ? key.toUpperCase() : key);
