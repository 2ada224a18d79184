import type { Destination } from '@under-chalk/core/destination/destination';
import { limitOf, limitSaid, type Limit } from '@under-chalk/core/record/limit';
import { formatClock, fromSeconds, type Us } from '@under-chalk/core/time/us';
import type { Recorder } from '../../capture/recorder';
import { usePart, type Watched } from '../../data/live-value';
import { Announce } from '../../ui/announce';
import { LevelMeter } from '../../ui/level-meter';
import { Notice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { LessonGauge } from '../destinations/lesson-gauge';
import { safetySaid, safetyWords } from './recorder-words';
import type { Heard } from './use-sources';

// What changes while a take is recorded, each in a part of its own: the page round them stays as it is.

/** The film that is being made longer by what is recorded. */
export interface Growing {
  readonly recorder: Recorder;
  /** What there is already, without the take that is being recorded. */
  readonly filmUs: Us;
  readonly destination: Destination;
}

/** How near the limit is: one thing of it, that is a number or words. */
const useLimit = <P extends string | number | null>(
  { recorder, filmUs, destination }: Growing,
  part: (limit: Limit) => P,
): P => usePart(recorder, ({ figures }) => part(limitOf(filmUs + figures.elapsedUs, destination)));

/** What there is to say of the limit; empty while it is far. */
export const useLimitWords = (growing: Growing): string => useLimit(growing, ({ words }) => words);

/** The clock, and what is left of the destination's length. */
export const RecorderClock = ({ growing, style }: { growing: Growing; style: object }) => {
  const elapsedUs = usePart(growing.recorder, ({ figures }) => figures.elapsedUs);
  const leftUs = useLimit(growing, (limit) => limit.leftUs);
  return (
    <>
      <Words
        role={'timer' as never}
        style={style}
        testID="recorder-clock"
        {...({ dataSet: { elapsedUs } } as object)}
      >
        {formatClock(elapsedUs)}
      </Words>
      {leftUs === null ? null : (
        <Words tone="soft" testID="recorder-left">
          {leftUs > 0 ? `${formatClock(leftUs)} left` : `${formatClock(-leftUs)} over`}
        </Words>
      )}
    </>
  );
};

export const LimitNotice = ({ growing }: { growing: Growing }) => {
  const stage = useLimit(growing, (limit) => limit.stage);
  const words = useLimitWords(growing);
  const said = useLimit(growing, limitSaid);
  return (
    <>
      <Announce words={said} urgent />
      {words ? <Notice tone={stage === 'near' ? 'plain' : 'warn'} still title={words} /> : null}
    </>
  );
};

/** The length gauge, moving on every second. */
export const GrowingGauge = ({ growing }: { growing: Growing }) => {
  const seconds = usePart(growing.recorder, ({ figures }) =>
    Math.floor((growing.filmUs + figures.elapsedUs) / 1e6),
  );
  return <LessonGauge usedUs={fromSeconds(seconds)} destinationId={growing.destination.id} />;
};

/** The level of what is recorded, or of what the microphone hears while nothing is. */
export const LiveLevel = ({ of }: { of: Watched<Pick<Heard, 'level'>> }) => (
  <LevelMeter {...usePart(of, ({ level }) => level)} />
);

/** Where what has been recorded is safe, and whether the computer keeps up. */
export const SafetyLine = ({ recorder }: { recorder: Recorder }) => {
  const words = usePart(recorder, ({ figures }) => safetyWords(figures));
  const left = usePart(recorder, ({ figures: { droppedFrames, frames } }) =>
    droppedFrames > 0
      ? ` ${droppedFrames} of ${frames} pictures were left out: the computer is busy.`
      : '',
  );
  const said = usePart(recorder, ({ figures }) => safetySaid(figures));
  return (
    <>
      <Announce words={said} />
      <Words size="small" tone="soft" testID="safety">
        {words + left}
      </Words>
    </>
  );
};
