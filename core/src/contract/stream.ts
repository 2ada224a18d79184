import * as z from 'zod';
import { byToken, define } from './endpoint';
import { versionSchema } from './watch';

/** Its pictures, the same for slow lines, its sound. */
export const streamTrackSchema = z.enum(['picture', 'narrow', 'sound']);
export type StreamTrack = z.infer<typeof streamTrackSchema>;

const inVersion = byToken.extend({ version: versionSchema });
/** By a ticket that is good for some minutes: it says whose, and which film, and tells nobody the link. */
const byTicket = z.object({ ticket: z.string().regex(/^[0-9A-Za-z_-]{40,300}$/) });
const onTrack = byTicket.extend({ track: streamTrackSchema });

/**
 * How long pieces can be fetched by the ticket in a playlist, ms: a page asks for another before it is over, and an address that was copied
 * from it is worth nothing soon after.
 */
export const TICKET_MS = 5 * 60_000;

/** A ticket, and for how long it is good, ms. */
export const ticketSchema = z.object({ ticket: z.string(), forMs: z.number().int().positive() });

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
      'The playlist of the film that a link leads to: which tracks it has, and in which sizes; each by a ticket.',
    params: inVersion,
    /** By a browser that reads it by itself: nobody can hand it another ticket while it plays. */
    query: z.object({ alone: z.literal('1').optional() }),
    file: 'application/vnd.apple.mpegurl',
    from: 'student',
  },
  watchTicket: {
    method: 'get',
    path: '/api/watch/:token/stream/:version/ticket',
    summary: 'Another ticket for the film’s pieces, for when the one in its playlist is over.',
    params: inVersion,
    answer: ticketSchema,
    from: 'student',
  },
  watchTrack: {
    method: 'get',
    path: '/api/media/:ticket/:track.m3u8',
    summary: 'The segments of a track, all of them, also those that are still to be made.',
    params: onTrack,
    file: 'application/vnd.apple.mpegurl',
    from: 'student',
  },
  watchHead: {
    method: 'get',
    path: '/api/media/:ticket/:track/head.mp4',
    summary: 'What comes before the first segment of a track.',
    params: onTrack,
    file: 'video/mp4',
    from: 'student',
  },
  watchSegment: {
    method: 'get',
    path: '/api/media/:ticket/:track/:number.m4s',
    summary: 'A segment. One that is still to be made is made next, and answered when it is there.',
    params: onTrack.extend({ number: z.string().regex(/^\d{1,6}$/) }),
    file: 'video/mp4',
    from: 'student',
  },
});
