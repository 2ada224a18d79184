import { useEffect, useRef, useState } from 'react';
import type { LessonView } from '@under-chalk/core/contract/lessons';
import { comingTakes, takeNames } from '@under-chalk/core/lesson/take-names';
import { Announce } from '../../ui/announce';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';

/**
 * Says of takes that are still being recorded or made ready that they are, wherever they would be missed; and of each,
 * once, that it is ready.
 */
export const GettingReady = ({ view }: { view: LessonView }) => {
  const { lesson, making } = view;
  const coming = comingTakes(lesson);
  const names = takeNames(lesson);
  const [ready, setReady] = useState('');
  const before = useRef<readonly string[]>([]);
  const ids = coming.map(({ id }) => id).join(' ');
  useEffect(() => {
    const now = ids === '' ? [] : ids.split(' ');
    const come = before.current.filter((id) => !now.includes(id));
    before.current = now;
    const told = come.flatMap((id) =>
      lesson.takes.some((take) => take.id === id && take.state === 'ready')
        ? (takeNames(lesson).get(id) ?? [])
        : [],
    );
    if (told.length > 0) setReady(`${told.join(', ')} ${told.length === 1 ? 'is' : 'are'} ready.`);
  }, [ids, lesson]);
  const recording = coming.filter(({ state }) => state === 'recording');
  const processing = coming.filter(({ state }) => state === 'processing');
  const listed = (of: typeof coming) => of.map(({ id }) => names.get(id)).join(', ');
  return (
    <>
      <Announce words={ready} />
      {recording.length > 0 ? (
        <Notice
          title={`${listed(recording)} ${recording.length === 1 ? 'is' : 'are'} still being recorded.`}
        />
      ) : null}
      {processing.length > 0 ? (
        <Notice
          title={`${listed(processing)} ${processing.length === 1 ? 'is' : 'are'} being made ready.`}
          text="It is safe on the server, and is in the film as soon as it is ready."
        />
      ) : null}
      {processing.map(({ id }) =>
        // Beside the notice, not in it: what it says is read out, and this changes all the time.
        making[id] === undefined ? null : (
          <ProgressLine
            key={id}
            doing={`Making ${names.get(id)} ready`}
            done={making[id]}
            leftUs={null}
          />
        ),
      )}
    </>
  );
};
