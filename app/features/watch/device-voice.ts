import { useSyncExternalStore } from 'react';
import { baseOf } from '@under-chalk/core/words/language';

/** Longest that a voice may take, times what reading mostly takes: one that never says that it is done holds no film up. */
const PATIENCE = 3;

const heard = (changed: () => void) => {
  globalThis.speechSynthesis?.addEventListener('voiceschanged', changed);
  return () => globalThis.speechSynthesis?.removeEventListener('voiceschanged', changed);
};

/** A voice of this device in a language; null: it has none. One that sends the words elsewhere is none. */
const voiceIn = (language: string): SpeechSynthesisVoice | null =>
  (globalThis.speechSynthesis?.getVoices() ?? []).find(
    ({ lang, localService }) =>
      localService && baseOf(lang.toLowerCase().replace('_', '-')) === baseOf(language),
  ) ?? null;

/** The same, as it comes: browsers tell of their voices late. */
export const useDeviceVoice = (language: string): SpeechSynthesisVoice | null =>
  useSyncExternalStore(heard, () => voiceIn(language));

/**
 * Reads a text out.
 *
 * @param mostlyUs how long that mostly takes
 * @param onOver it is read out, or can't be
 * @returns stops it; `onOver` isn't called then
 */
export const readOut = (
  text: string,
  voice: SpeechSynthesisVoice,
  mostlyUs: number,
  onOver: () => void,
): (() => void) => {
  const said = new SpeechSynthesisUtterance(text);
  said.voice = voice;
  said.lang = voice.lang;
  let isOver = false;
  const over = () => {
    if (isOver) return;
    stopped();
    onOver();
  };
  const waited = setTimeout(over, (mostlyUs / 1000) * PATIENCE);
  const stopped = () => {
    isOver = true;
    clearTimeout(waited);
    speechSynthesis.cancel();
  };
  said.onend = over;
  said.onerror = over;
  speechSynthesis.cancel();
  speechSynthesis.speak(said);
  return stopped;
};
