import { TICKET_MS } from '@under-chalk/core/contract/stream';
import type { Context } from 'koa';
import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import type { On } from '../http/route';
import { LONG_TICKET_MS } from '../http/tickets';
import type { Student } from '../http/who';

const PLAYLIST = 'application/vnd.apple.mpegurl';

/** A student's film in pieces. What stands under a version never changes, but the link can be taken away. */
export const streamRoutes = (on: On, parts: Parts): void => {
  const { grants, shareLinks, streams, previews, tickets } = parts;
  /** What is given under a link, or was until a few hours ago: whoever watches goes on with it. */
  const filmOf = ({ shareLink }: Student, version: string) =>
    shareLinks.filmOfVersion(shareLink, version);

  /** The same, by a ticket that the door has looked at. */
  const ticketed = (who: Student, ticket: string) => filmOf(who, tickets.open(ticket).version);

  const answer = (ctx: Context, type: string, bytes: string | Uint8Array) => {
    ctx.type = type;
    ctx.body = typeof bytes === 'string' ? bytes : Buffer.from(bytes.buffer);
  };

  /** A student's own browser may hold what it has seen for as long as a lesson lasts. */
  const HELD = 'private, max-age=3600';

  on('watchStream', async ({ who, params, query, ctx }) => {
    // A film for slow lines may have been made since: held for as long as a page takes to begin.
    ctx.set('Cache-Control', 'private, max-age=20');
    const film = await filmOf(who, params.version);
    // Asked for by a page that plays, and not by what makes previews of addresses.
    if (who.person) await grants.open(who.shareLink.id, who.person.studentId);
    const forMs = query.alone ? LONG_TICKET_MS : TICKET_MS;
    const ticket = tickets.make({ token: params.token, version: params.version }, forMs);
    answer(ctx, PLAYLIST, await streams.masterPlaylist(film, `/api/media/${ticket}`));
  });

  on('watchTicket', async ({ who, params, ctx }) => {
    await filmOf(who, params.version);
    ctx.set('Cache-Control', 'no-store');
    return { ticket: tickets.make(params), forMs: TICKET_MS };
  });

  on('watchTrack', async ({ who, params, ctx }) => {
    ctx.set('Cache-Control', HELD);
    const film = await ticketed(who, params.ticket);
    answer(ctx, PLAYLIST, await streams.mediaPlaylist(film, params.track));
  });

  on('watchPreviews', async ({ who, params, ctx }) => {
    const path = await previews.of(await filmOf(who, params.version));
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'never' });
    ctx.set('Cache-Control', HELD);
  });

  on('watchHead', async ({ who, params, ctx }) => {
    const film = await ticketed(who, params.ticket);
    const head = await streams.head(film, params.track);
    ctx.set('Cache-Control', HELD);
    answer(ctx, 'video/mp4', head);
  });

  on('watchSegment', async ({ who, params, ctx }) => {
    const film = await ticketed(who, params.ticket);
    const gone = new AbortController();
    ctx.res.once('close', () => gone.abort(new Error('nobody waits for it')));
    const { track, number } = params;
    const bytes = await streams
      .segment(film, track, Number(number), gone.signal)
      .catch((error: unknown) => {
        if (!gone.signal.aborted) throw error;
        return null;
      });
    // They went elsewhere in the film: there is nobody to answer.
    if (!bytes) {
      ctx.respond = false;
      return;
    }
    ctx.set('Cache-Control', HELD);
    answer(ctx, 'video/mp4', bytes);
  });
};
