import { byLesson, define } from './endpoint';

export const BUNDLES = define({
  bundle: {
    method: 'get',
    path: '/api/lessons/:lessonId/bundle.zip',
    summary:
      'All of a lesson as one archive: its document, footage, what was written, materials, and the cut list for other programs.',
    params: byLesson,
    file: 'application/zip',
  },
  timeline: {
    method: 'get',
    path: '/api/lessons/:lessonId/timeline.otio',
    summary: 'The cut list of a lesson’s film, as OpenTimelineIO.',
    params: byLesson,
    file: 'application/json',
  },
});
