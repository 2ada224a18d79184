import * as z from 'zod';
import { idSchema, takeSchema, takeSourceSchema, trackKindSchema, usSchema } from '../lesson/take';
import { pointerStateSchema } from '../pointer/found';
import {
  noiseReducedStateSchema,
  noiseReductionSchema,
  MOST_PART_US,
} from '../sound/noise-reduction/noise-reduction';
import { byLesson, byTake, define, ok } from './endpoint';

/** Where the bytes of tracks go, by the tus 1.0 protocol. */
export const UPLOADS_PATH = '/api/uploads';

/** Tracks that a take can have. */
export const MOST_TRACKS = 12;

export const newTakeSchema = z.object({
  id: idSchema,
  source: takeSourceSchema,
  practice: z.boolean(),
  /** It stands beside the film, and not in it. */
  beside: z.boolean().optional(),
  tracks: z
    .array(z.object({ id: idSchema, kind: trackKindSchema }))
    .min(1)
    .max(MOST_TRACKS)
    .refine((tracks) => {
      const ids = tracks.map(({ id }) => id);
      const kinds = tracks.map(({ kind }) => kind);
      return new Set(ids).size === ids.length && new Set(kinds).size === kinds.length;
    }, 'one track of each kind, each with an identifier of its own'),
});
export type NewTake = z.infer<typeof newTakeSchema>;

export const TAKES = define({
  freeSpace: {
    method: 'get',
    path: '/api/storage',
    summary: 'Room left on the server’s disk, bytes.',
    answer: z.object({ freeBytes: z.number().int() }),
  },
  take: {
    method: 'get',
    path: '/api/takes/:takeId',
    summary: 'A take: how it stands with it.',
    params: byTake,
    answer: takeSchema,
  },
  newTake: {
    method: 'post',
    path: '/api/lessons/:lessonId/takes',
    summary:
      'Begin a take. Each track’s bytes then come by tus 1.0 to /api/uploads with its id as `trackId`.',
    params: byLesson,
    body: newTakeSchema,
    answer: takeSchema,
  },
  stopTake: {
    method: 'post',
    path: '/api/takes/:takeId/stop',
    summary: 'All bytes of the take have been sent: measure it and make it playable.',
    params: byTake,
    body: z.object({ cutShort: z.boolean().default(false) }),
    answer: takeSchema,
  },
  processTake: {
    method: 'post',
    path: '/api/takes/:takeId/process',
    summary:
      'Make a take ready anew from what came in: after a failure, or after it was called off.',
    params: byTake,
    answer: takeSchema,
  },
  cancelTake: {
    method: 'post',
    path: '/api/takes/:takeId/cancel',
    summary: 'Stop making a take ready. What came in is kept.',
    params: byTake,
    answer: takeSchema,
  },
  heartbeat: {
    method: 'post',
    path: '/api/takes/:takeId/heartbeat',
    summary:
      'Still recording, or paused. A take that is not heard of for 30 s is taken as cut short. At ease: nothing has been left out since it told last, and the server may make pieces of its film meanwhile.',
    params: byTake,
    body: z.object({ atEase: z.boolean().default(false) }),
    answer: ok,
  },
  levels: {
    method: 'get',
    path: '/api/takes/:takeId/levels',
    summary: 'Loudness of the voice: a byte for each 20 ms, dBFS + 100.',
    params: byTake,
    file: 'application/octet-stream',
  },
  loudness: {
    method: 'get',
    path: '/api/takes/:takeId/loudness',
    summary:
      'Integrated loudness (EBU R 128) of the take’s sound tracks, LUFS; null where nothing is loud enough to be measured.',
    params: byTake,
    answer: z.array(z.object({ trackId: idSchema, lufs: z.number().nullable() })),
  },
  noiseReduced: {
    method: 'get',
    path: '/api/takes/:takeId/noise-reduced',
    summary:
      'How it stands with the take’s voice without the room it was recorded in. Asked for, it is made.',
    params: byTake,
    query: z.object({ reduction: noiseReductionSchema }),
    answer: noiseReducedStateSchema,
  },
  noiseReducedPart: {
    method: 'get',
    path: '/api/takes/:takeId/noise-reduced-part',
    summary:
      'A part of it, before all of it is there: samples of 16 bits, 48,000 a second, one channel.',
    params: byTake,
    query: z
      .object({
        reduction: noiseReductionSchema,
        fromUs: z.coerce.number().pipe(usSchema),
        toUs: z.coerce.number().pipe(usSchema),
      })
      .refine(({ fromUs, toUs }) => toUs > fromUs && toUs - fromUs <= MOST_PART_US, {
        message: 'a part is half a minute at most',
      }),
    file: 'application/octet-stream',
  },
  still: {
    method: 'get',
    path: '/api/takes/:takeId/still',
    summary: 'A picture of the take at a recorded time, 320 or 960 px wide.',
    params: byTake,
    query: z.object({
      atUs: z.coerce.number().pipe(usSchema),
      size: z.enum(['small', 'large']).default('small'),
      /** The surface, or the camera where there is none; or the camera in any case. */
      of: z.enum(['surface', 'camera']).default('surface'),
      /** The board as a lesson has it, with what was changed about its writing; else as it was recorded. */
      lessonId: idSchema.optional(),
      /** Names the change, so that a picture that is kept is not shown after another. */
      changed: z.string().max(20).optional(),
    }),
    file: 'image/jpeg',
  },
  pointer: {
    method: 'get',
    path: '/api/takes/:takeId/pointer',
    summary: 'Where the pointer was seen in the pictures of a captured screen.',
    params: byTake,
    answer: pointerStateSchema,
  },
  media: {
    method: 'get',
    path: '/api/tracks/:trackId/media',
    summary: 'A track as it was recorded, or without its room, for the preview. Answers ranges.',
    params: z.object({ trackId: idSchema }),
    query: z.object({ reduction: noiseReductionSchema.optional() }),
    file: 'video/mp4',
  },
});
