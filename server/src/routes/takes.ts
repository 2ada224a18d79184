import { NEW_DECISIONS } from '@under-chalk/core/edit/decisions';
import { AppError } from '@under-chalk/core/errors/errors';
import { loudnessOfTakes } from '../jobs/readings/loudness';
import { trackOf } from '@under-chalk/core/lesson/take';
import { mediumOf, ofMedium } from '@under-chalk/core/lesson/medium';
import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import type { On } from '../http/route';

const inSixteenBits = (sample: number): number =>
  Math.round(Math.max(-1, Math.min(1, sample)) * 32_767);

export const takeRoutes = (on: On, parts: Parts): void => {
  const { takes, lessons, takeService, earlyPieces, stills, media, pointers, noiseReduced } = parts;

  on('take', ({ params }) => takes.get(params.takeId));

  on('newTake', async ({ params, body }) => {
    const take = await takes.create(params.lessonId, body);
    // In the film from the first moment: a take whose recorder crashes is where it belongs.
    // The recorder may have given it its place already.
    if (!body.beside) await lessons.placeAtEnd(params.lessonId, take.id);
    return take;
  });

  on('stopTake', async ({ params, body }) => {
    const take = await takes.get(params.takeId);
    const growing = take.state === 'recording' || take.cutShort;
    if (growing) {
      // Whole is what the bytes say, not who sends them: its sender keeps its own until it hears so.
      const ids = (await takes.tracksOf(take.id)).map(({ id }) => id);
      const come = await Promise.all(ids.map((id) => media.isWhole(id)));
      await takeService.ingest(take.id, body.cutShort || !come.every(Boolean));
    }
    return takes.get(take.id);
  });

  on('processTake', async ({ params }) => {
    await takeService.ingestAnew(params.takeId);
    return takes.get(params.takeId);
  });

  on('cancelTake', async ({ params }) => {
    await takes.get(params.takeId);
    await takeService.callOff(params.takeId);
    return takes.get(params.takeId);
  });

  on('heartbeat', async ({ params, body }) => {
    await takes.heard(params.takeId);
    if (body?.atEase) earlyPieces.atEase(params.takeId);
    else await earlyPieces.stop(params.takeId);
    return { ok: true as const };
  });

  on('levels', async ({ params, ctx }) => {
    const take = await takes.get(params.takeId);
    await sendFile(ctx, media.levels(take.id), {
      type: 'application/octet-stream',
      keep: 'never',
    });
  });

  on('loudness', async ({ params }) => {
    const take = await takes.get(params.takeId);
    if (take.state !== 'ready') return [];
    const loudnessOf = await loudnessOfTakes([take], media);
    return ofMedium(take.tracks, 'sound').flatMap(({ id }) => {
      const loudness = loudnessOf(id);
      return loudness ? [{ trackId: id, lufs: loudness.lufs }] : [];
    });
  });

  on('noiseReduced', async ({ params, query }) =>
    noiseReduced.stateOf(await takes.get(params.takeId), query.reduction),
  );

  on('noiseReducedPart', async ({ params, query, ctx }) => {
    const take = await takes.get(params.takeId);
    const voice = take.state === 'ready' ? trackOf(take, 'voice') : undefined;
    if (!voice) throw new AppError('not-found', `voice of take ${take.id}`);
    const { reduction, fromUs, toUs } = query;
    const samples = await noiseReduced.part(voice, reduction, fromUs, toUs);
    ctx.type = 'application/octet-stream';
    ctx.body = Buffer.from(Int16Array.from(samples, inSixteenBits).buffer);
  });

  on('still', async ({ params, query, ctx }) => {
    const take = await takes.get(params.takeId);
    const { lessonId, atUs, size, of } = query;
    const lesson = lessonId ? (await lessons.view(lessonId)).lesson : null;
    const path = await stills.of(
      take,
      atUs,
      size === 'large' ? 960 : 320,
      lesson?.decisions ?? NEW_DECISIONS,
      of,
    );
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'for-ever' });
  });

  on('pointer', async ({ params }) => pointers.stateOf(await takes.get(params.takeId)));

  on('media', async ({ params, query, ctx }) => {
    const found = await takes.ofTrack(params.trackId);
    if (!found?.ingested) throw new AppError('not-found', `track ${params.trackId}`);
    if (query.reduction) {
      const track = found.take.tracks.find(({ id }) => id === params.trackId)!;
      const { path } = media.noiseReduced(track, query.reduction);
      return sendFile(ctx, path, { type: 'video/mp4', keep: 'never' });
    }
    const written = found.take.tracks.some(
      ({ id, kind }) => id === params.trackId && mediumOf(kind) === 'events',
    );
    await sendFile(ctx, written ? media.ink(params.trackId) : media.media(params.trackId).path, {
      type: written ? 'application/x-ndjson' : 'video/mp4',
      keep: 'never',
    });
  });
};
