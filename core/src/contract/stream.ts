import * as z from 'zod';
import { byToken, define } from './endpoint';
import { versionSchema } from './watch';

/** Its pictures, the same for slow lines, its sound. */
export const streamTrackSchema = z.enum(['picture', 'narrow', 'sound']);
export type StreamTrack = z.infer<typeof streamTrackSchema>;

const inVersion = byToken.extend({ version: versionSchema });
const onTrack = inVersion.extend({ track: streamTrackSchema });

/** A film in pieces that are played before all are made: HTTP Live Streaming (RFC 8216) of fragmented MP4. */
export const WATCH_STREAM = define({
  watchPreviews: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/previews.jpg',
    summary: 'Small pictures of the finished film on one sheet, for looking for a place in it.',
    params: inVersion,
    file: 'image/jpeg',
    from: 'student',
  },
  watchStream: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/film.m3u8',
    summary:
      'The playlist of the film that a link leads to: which tracks it has, and in which sizes.',
    params: inVersion,
    file: 'application/vnd.apple.mpegurl',
    from: 'student',
  },
  watchTrack: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/:track.m3u8',
    summary: 'The segments of a track, all of them, also those that are still to be made.',
    params: onTrack,
    file: 'application/vnd.apple.mpegurl',
    from: 'student',
  },
  watchHead: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/:track/head.mp4',
    summary: 'What comes before the first segment of a track.',
    params: onTrack,
    file: 'video/mp4',
    from: 'student',
  },
  watchSegment: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/:track/:number.m4s',
    summary: 'A segment. One that is still to be made is made next, and answered when it is there.',
    params: onTrack.extend({ number: z.string().regex(/^\d{1,6}$/) }),
    file: 'video/mp4',
    from: 'student',
  },
});
