import { useEffect, useState } from 'react';
import { listen, listenFrom, type VoiceCheck } from '@under-chalk/core/sound/voice-check';
import type { Level } from '@under-chalk/core/sound/level';

const nowUs = () => performance.now() * 1000;

/** What has been heard of a microphone since it was opened, or since it was asked to listen again. */
export const useVoiceCheck = (
  voice: MediaStream | null,
  now: Level,
): { check: VoiceCheck; again: () => void } => {
  const [check, setCheck] = useState(() => listenFrom(nowUs()));
  const again = () => setCheck(listenFrom(nowUs()));
  useEffect(() => setCheck(listenFrom(nowUs())), [voice]);
  useEffect(() => {
    if (voice) setCheck((before) => listen(before, now, nowUs()));
  }, [voice, now]);
  return { check, again };
};

/** A microphone that has just been opened gives nothing at first. */
const OPENING_US = 2_000_000;

/** Whether it is too early to say that a microphone is dead. */
export const isOpening = (check: VoiceCheck): boolean =>
  isDead(check) && check.lastUs - check.sinceUs < OPENING_US;

/** Whether the microphone gives nothing at all: not even the hiss of an open one. */
export const isDead = (check: VoiceCheck): boolean =>
  check.rightUs + check.loudUs + check.quietUs === 0;
