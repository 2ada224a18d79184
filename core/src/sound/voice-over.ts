import { filmTimeFrom, type Film } from '../film/film';
import { filmFrameIn } from '../film/span';
import { framesOfCutaway } from '../lesson/cutaway';
import { takeOf } from '../lesson/lesson';
import { trackOf, type Take } from '../lesson/take';
import { frameAt, nearestFrame } from '../time/frames';
import { ofTake } from '../time/timeline';

/** A voice that is heard over what was recorded, for some frames of the film. */
export interface VoiceOver {
  readonly take: Take;
  /** Frame of its own grid that it begins with. */
  readonly startFrame: number;
  readonly filmFrame: number;
  readonly frames: number;
}

/** One that goes on where the last ended is one with it: a cut in what is seen is none in what is said. */
const add = (all: VoiceOver[], one: VoiceOver): void => {
  const last = all.at(-1);
  const goesOn =
    last?.take.id === one.take.id &&
    last.filmFrame + last.frames === one.filmFrame &&
    last.startFrame + last.frames === one.startFrame;
  if (goesOn) all[all.length - 1] = { ...last, frames: last.frames + one.frames };
  else all.push(one);
};

/** What is spoken over a film, in its order: as long as what it is spoken over is on show, and nothing of it that was cut out. */
export const voiceOverOf = (film: Film): VoiceOver[] => {
  const { lesson, spans } = film;
  const { voiceOvers, cuts } = lesson.decisions;
  const all: VoiceOver[] = [];
  if (voiceOvers.length === 0) return all;
  for (const span of spans) {
    for (const { startUs, endUs, by } of ofTake(voiceOvers, span.take.id)) {
      const take = takeOf(lesson, by.takeId);
      if (take?.state !== 'ready' || !trackOf(take, 'voice')) continue;
      const inside = (us: number) =>
        filmFrameIn(span, Math.min(span.endFrame, Math.max(span.startFrame, nearestFrame(us))));
      const [from, to] = [inside(startUs), inside(endUs)];
      if (to <= from) continue;
      const place = { takeId: span.take.id, placementId: span.placementId, takeUs: by.sinceUs };
      const begins = frameAt(filmTimeFrom(film, place));
      for (const { startFrame, frames, before } of framesOfCutaway(cuts, take, by)) {
        const filmFrame = Math.max(from, begins + before);
        const end = Math.min(to, begins + before + frames);
        if (end <= filmFrame) continue;
        const into = filmFrame - begins - before;
        add(all, { take, startFrame: startFrame + into, filmFrame, frames: end - filmFrame });
      }
    }
  }
  return all;
};
