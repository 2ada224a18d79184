import { useState } from 'react';
import type { Arrangement, ArrangementKind } from '@under-chalk/core/lesson/arrangement';
import { LONGEST_TAKE_US } from '@under-chalk/core/lesson/take';
import type { Recorder } from '../../capture/recorder';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import { useThisLesson } from '../lessons/lesson-layout';

/** To the end of the take, wherever that will be. */
const TO_THE_END_US = LONGEST_TAKE_US;
const ORDER: readonly ArrangementKind[] = ['inset', 'surface', 'side', 'camera'];

export interface Live {
  readonly arrangement: Arrangement;
  readonly cameraOff: boolean;
  readonly arrange: (change: Partial<Arrangement>) => void;
  readonly nextArrangement: () => void;
  readonly toggleCamera: () => void;
  readonly flub: () => void;
  readonly flubs: number;
  readonly tick: (pointId: string) => void;
  /** A new take begins with the arrangement that is on the screen. */
  readonly begun: (takeId: string) => void;
}

/**
 * What is decided while recording: how surface and camera share the picture, what was a mistake, what has
 * been covered. Each is an edit of the lesson, anchored to the moment it was made.
 */
export const useLive = (recorder: Recorder): Live => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const { resting } = lesson.decisions;
  const [arrangement, setArrangement] = useState<Arrangement>(resting);
  const [cameraOff, setCameraOff] = useState(false);
  const takeId = usePart(recorder, (view) => view.takeId);

  const from = (startUs: number, shown: Arrangement, id = takeId) => {
    if (!id) return;
    put({ do: 'arrange', takeId: id, startUs, endUs: TO_THE_END_US, arrangement: shown });
  };
  const arrange = (change: Partial<Arrangement>) => {
    const next = { ...arrangement, ...change };
    setArrangement(next);
    if (!cameraOff) from(recorder.nowUs(), next);
  };
  return {
    arrangement: cameraOff ? { ...arrangement, kind: 'surface' } : arrangement,
    cameraOff,
    arrange,
    nextArrangement: () =>
      arrange({ kind: ORDER[(ORDER.indexOf(arrangement.kind) + 1) % ORDER.length]! }),
    toggleCamera: () => {
      const off = !cameraOff;
      setCameraOff(off);
      recorder.hide('camera', off);
      from(recorder.nowUs(), off ? { ...arrangement, kind: 'surface' } : arrangement);
    },
    flub: () => {
      if (takeId) put({ do: 'mark-flub', takeId, atUs: recorder.nowUs() });
    },
    flubs: lesson.decisions.flubs.filter((flub) => flub.takeId === takeId).length,
    tick: (pointId) => {
      if (takeId) put({ do: 'tick-point', pointId, takeId, atUs: recorder.nowUs() });
    },
    begun: (id) => {
      const shown: Arrangement = cameraOff ? { ...arrangement, kind: 'surface' } : arrangement;
      if (cameraOff) recorder.hide('camera', true);
      if (JSON.stringify(shown) !== JSON.stringify(resting)) from(0, shown, id);
    },
  };
};
