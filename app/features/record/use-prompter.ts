import { useEffect, useRef, useState } from 'react';
import {
  placeAt,
  placeOfTopic,
  PROMPTER_SPEED,
  readUsAt,
  type PrompterPart,
  type PrompterPlace,
} from '@under-chalk/core/plan/prompter';
import type { Topic } from '@under-chalk/core/plan/topic';
import * as z from 'zod';
import { LiveValue, type Watched } from '../../data/live-value';
import { useSetting } from '../../data/kept-setting';

const settingsSchema = z.object({
  shown: z.boolean(),
  follows: z.enum(['speed', 'ticks']),
  wordsPerMinute: z.number().min(PROMPTER_SPEED.least).max(PROMPTER_SPEED.most),
  mirrored: z.boolean(),
});
export type PrompterSettings = z.infer<typeof settingsSchema>;

const FIRST: PrompterSettings = {
  shown: true,
  follows: 'speed',
  wordsPerMinute: PROMPTER_SPEED.usual,
  mirrored: false,
};

export interface Prompter {
  readonly settings: PrompterSettings;
  readonly set: (change: Partial<PrompterSettings>) => void;
  /** It stands still though recording runs. */
  readonly held: boolean;
  readonly hold: (held: boolean) => void;
  /** How much has been read, µs at the present speed; it grows twenty times a second. */
  readonly readUs: Watched<number>;
  readonly placeAt: (readUs: number) => PrompterPlace;
  /** Goes some words on or back. */
  readonly move: (words: number) => void;
}

const STEP_MS = 50;

/** Where the reader is: by the speed while recording runs, or at the topic that is next. */
export const usePrompter = (
  parts: readonly PrompterPart[],
  topics: readonly Topic[],
  nextTopicId: string | null,
  running: boolean,
): Prompter => {
  const [settings, keep] = useSetting('under-chalk prompter', settingsSchema, FIRST);
  const [held, hold] = useState(false);
  const [readUs] = useState(() => new LiveValue(0));
  const { follows, wordsPerMinute } = settings;
  const goes = running && !held && follows === 'speed';
  const last = useRef(0);
  useEffect(() => {
    if (!goes) return undefined;
    last.current = performance.now();
    const timer = setInterval(() => {
      const now = performance.now();
      const passedUs = (now - last.current) * 1000;
      last.current = now;
      readUs.set(readUs.view() + passedUs);
    }, STEP_MS);
    return () => clearInterval(timer);
  }, [goes, readUs]);
  const steadyAt = (us: number) => placeAt(parts, us, wordsPerMinute);
  return {
    settings,
    set: (change) => {
      const next = { ...settings, ...change };
      // The words stay where they are, however fast they go on.
      readUs.set(readUsAt(parts, steadyAt(readUs.view()), next.wordsPerMinute));
      keep(next);
    },
    held,
    hold,
    readUs,
    placeAt: follows === 'ticks' ? () => placeOfTopic(parts, topics, nextTopicId) : steadyAt,
    move: (words) => readUs.set(Math.max(0, readUs.view() + (words / wordsPerMinute) * 60_000_000)),
  };
};
