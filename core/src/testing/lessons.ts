import { NEW_DECISIONS, type Decisions } from '../edit/decisions';
import type { Lesson } from '../lesson/lesson';
import { wholeTakes } from '../lesson/placement';
import { mediumOf } from '../lesson/medium';
import type { Take, TrackKind } from '../lesson/take';

/** A ready take of a length, with the tracks named; pictures are 1280×720, cameras 640×480. For tests. */
export const takeOfLength = (
  id: string,
  durationUs: number,
  kinds: readonly TrackKind[] = ['surface', 'camera', 'voice'],
): Take => ({
  id,
  source: kinds.includes('surface') ? 'screen' : kinds.includes('camera') ? 'camera' : 'sound',
  practice: true,
  state: 'ready',
  problem: null,
  cutShort: false,
  recordedAt: '2026-11-02T21:40:00.000Z',
  durationUs,
  tracks: kinds.map((kind) => ({
    id: `${id}-${kind}`,
    kind,
    durationUs,
    widthPx: mediumOf(kind) === 'picture' ? (kind === 'camera' ? 640 : 1280) : 0,
    heightPx: mediumOf(kind) === 'picture' ? (kind === 'camera' ? 480 : 720) : 0,
    digest: '',
  })),
});

/** A lesson with all of the given takes in the film, in order. For tests. */
export const lessonOf = (takes: readonly Take[], decisions: Partial<Decisions> = {}): Lesson => ({
  id: 'lesson-1',
  revision: 0,
  takes,
  decisions: {
    ...NEW_DECISIONS,
    ...wholeTakes(takes.map((take) => take.id)),
    ...decisions,
  },
});
