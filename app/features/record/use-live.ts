import { useState } from 'react';
import type { Layout, LayoutKind } from '@under-chalk/core/lesson/layout';
import { LONGEST_TAKE_US } from '@under-chalk/core/lesson/take';
import type { Recorder } from '../../capture/recorder';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import { useThisLesson } from '../lessons/lesson-layout';

/** To the end of the take, wherever that will be. */
const TO_THE_END_US = LONGEST_TAKE_US;
const ORDER: readonly LayoutKind[] = ['inset', 'surface', 'side', 'camera'];

export interface Live {
  readonly layout: Layout;
  readonly cameraOff: boolean;
  readonly changeLayout: (change: Partial<Layout>) => void;
  readonly nextLayout: () => void;
  readonly toggleCamera: () => void;
  readonly flub: () => void;
  readonly flubs: number;
  readonly tick: (topicId: string) => void;
  /** A new take begins with the layout that is on the screen. */
  readonly begun: (takeId: string) => void;
}

/**
 * What is decided while recording: how surface and camera share the picture, what was a mistake, what has
 * been covered. Each is an edit of the lesson, anchored to the moment it was made.
 */
export const useLive = (recorder: Recorder): Live => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const { defaultLayout } = lesson.decisions;
  const [layout, setLayout] = useState<Layout>(defaultLayout);
  const [cameraOff, setCameraOff] = useState(false);
  const takeId = usePart(recorder, (view) => view.takeId);

  const from = (startUs: number, shown: Layout, id = takeId) => {
    if (!id) return;
    put({ do: 'set-layout', takeId: id, startUs, endUs: TO_THE_END_US, layout: shown });
  };
  const changeLayout = (change: Partial<Layout>) => {
    const next = { ...layout, ...change };
    setLayout(next);
    if (!cameraOff) from(recorder.nowUs(), next);
  };
  return {
    layout: cameraOff ? { ...layout, kind: 'surface' } : layout,
    cameraOff,
    changeLayout,
    nextLayout: () =>
      changeLayout({ kind: ORDER[(ORDER.indexOf(layout.kind) + 1) % ORDER.length]! }),
    toggleCamera: () => {
      const off = !cameraOff;
      setCameraOff(off);
      recorder.hide('camera', off);
      from(recorder.nowUs(), off ? { ...layout, kind: 'surface' } : layout);
    },
    flub: () => {
      if (takeId) put({ do: 'mark-flub', takeId, atUs: recorder.nowUs() });
    },
    flubs: lesson.decisions.flubs.filter((flub) => flub.takeId === takeId).length,
    tick: (topicId) => {
      if (takeId) put({ do: 'mark-topic-done', topicId, takeId, atUs: recorder.nowUs() });
    },
    begun: (id) => {
      const shown: Layout = cameraOff ? { ...layout, kind: 'surface' } : layout;
      if (cameraOff) recorder.hide('camera', true);
      if (JSON.stringify(shown) !== JSON.stringify(defaultLayout)) from(0, shown, id);
    },
  };
};
