import type { NewTake } from '@under-chalk/core/contract/takes';
import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import {
  takeSchema,
  type Take,
  type TakeState,
  type Track,
  type TrackKind,
} from '@under-chalk/core/lesson/take';
import type { Knex } from 'knex';

interface TakeRow {
  readonly id: string;
  readonly lesson_id: string;
  readonly source: Take['source'];
  readonly practice: number;
  readonly state: TakeState;
  readonly problem: string | null;
  readonly cut_short: number;
  readonly recorded_at: string;
  readonly duration_us: number;
}

interface TrackRow {
  readonly id: string;
  readonly take_id: string;
  readonly kind: TrackKind;
  readonly duration_us: number;
  readonly width_px: number;
  readonly height_px: number;
  readonly digest: string;
  readonly ingested: number;
}

const toTrack = (row: TrackRow): Track => ({
  id: row.id,
  kind: row.kind,
  durationUs: row.duration_us,
  widthPx: row.width_px,
  heightPx: row.height_px,
  digest: row.digest,
});

/** A take that the app could not read would take its whole lesson along: it is told as unusable instead. */
const readable = (take: Take): Take =>
  takeSchema.safeParse(take).success
    ? take
    : { ...take, state: 'unusable', problem: 'take-unreadable', durationUs: 0, tracks: [] };

/** What processing found out about a track. */
export interface IngestedTrack extends Track {
  readonly bytes: number;
}

/** A take that was processed on another server: what was wrong with it there, and what its tracks are known by. */
export interface IngestedElsewhere {
  readonly problem: string | null;
  readonly digests: ReadonlyMap<string, string>;
}

/** Takes and their tracks: what was recorded. */
export class TakeStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** @throws AppError `not-found` for an unknown lesson, `exists-already` */
  async create(lessonId: string, take: NewTake): Promise<Take> {
    await this.#db.transaction(async (trx) => {
      if (!(await trx('lessons').where({ id: lessonId }).first())) {
        throw new AppError('not-found', `lesson ${lessonId}`);
      }
      const ids = take.tracks.map((track) => track.id);
      const present = await trx('tracks').whereIn('id', ids).first();
      if (present || (await trx('takes').where({ id: take.id }).first())) {
        throw new AppError('exists-already', `take ${take.id}`);
      }
      await trx('takes').insert({
        id: take.id,
        lesson_id: lessonId,
        source: take.source,
        practice: take.practice,
        state: 'recording',
        recorded_at: new Date().toISOString(),
        heartbeat: Date.now(),
      });
      await trx('tracks').insert(
        take.tracks.map(({ id, kind }) => ({ id, kind, take_id: take.id })),
      );
    });
    return this.get(take.id);
  }

  /** A take that was processed elsewhere: its tracks' bytes are here, each a file of its own, and it is to be processed. */
  async bringIn(lessonId: string, take: Take): Promise<void> {
    await this.#db('takes').insert({
      ...{ id: take.id, lesson_id: lessonId, source: take.source, practice: take.practice },
      ...{ state: 'processing', problem: take.problem, cut_short: take.cutShort },
      ...{ recorded_at: take.recordedAt, heartbeat: Date.now(), from_archive: true },
    });
    await this.#db('tracks').insert(
      take.tracks.map(({ id, kind, digest }) => ({ id, kind, digest, take_id: take.id })),
    );
  }

  /** What is known of a take that was processed elsewhere; null where it wasn't. */
  async ingestedElsewhere(takeId: string): Promise<IngestedElsewhere | null> {
    const row = await this.#db('takes').where({ id: takeId }).first('from_archive', 'problem');
    if (!row?.from_archive) return null;
    const tracks = await this.#db('tracks')
      .where({ take_id: takeId })
      .select<{ id: string; digest: string }[]>('id', 'digest');
    return {
      problem: row.problem,
      digests: new Map(tracks.map(({ id, digest }) => [id, digest])),
    };
  }

  async #withTracks(rows: readonly TakeRow[]): Promise<Take[]> {
    const tracks = await this.#db('tracks')
      .whereIn(
        'take_id',
        rows.map((row) => row.id),
      )
      .orderBy('rowid')
      .select<TrackRow[]>('*');
    return rows.map((row) =>
      readable({
        id: row.id,
        source: row.source,
        practice: row.practice === 1,
        state: row.state,
        problem: row.problem,
        cutShort: row.cut_short === 1,
        recordedAt: row.recorded_at,
        durationUs: row.duration_us,
        tracks: tracks
          // Of a ready take only what could be processed: an empty track can't be shown.
          .filter((track) => track.take_id === row.id && (row.state !== 'ready' || track.ingested))
          .map(toTrack),
      }),
    );
  }

  async ofLesson(lessonId: string): Promise<Take[]> {
    return this.#withTracks(
      await this.#db('takes')
        .where({ lesson_id: lessonId, removed_at: null })
        .orderBy('recorded_at')
        .select('*'),
    );
  }

  /** Those of some takes that there are. */
  async some(ids: readonly string[]): Promise<Take[]> {
    return ids.length === 0
      ? []
      : this.#withTracks(
          await this.#db('takes')
            .whereIn('id', ids)
            .whereNull('removed_at')
            .orderBy('id')
            .select('*'),
        );
  }

  /** @throws AppError `not-found` */
  async get(id: string): Promise<Take> {
    const row = await this.#db('takes').where({ id }).first();
    if (!row) throw new AppError('not-found', `take ${id}`);
    return (await this.#withTracks([row]))[0]!;
  }

  async lessonOf(takeId: string): Promise<string> {
    const row = await this.#db('takes').where({ id: takeId }).first('lesson_id');
    if (!row) throw new AppError('not-found', `take ${takeId}`);
    return row.lesson_id;
  }

  /** The take a track belongs to and all of its tracks, processed or not. */
  async ofTrack(trackId: string): Promise<{ take: Take; ingested: boolean } | null> {
    const row = await this.#db('tracks').where({ id: trackId }).first('take_id', 'ingested');
    return row ? { take: await this.get(row.take_id), ingested: row.ingested === 1 } : null;
  }

  async tracksOf(takeId: string): Promise<{ id: string; kind: TrackKind }[]> {
    return this.#db('tracks').where({ take_id: takeId }).orderBy('rowid').select('id', 'kind');
  }

  async heard(takeId: string): Promise<void> {
    await this.#db('takes').where({ id: takeId }).update({ heartbeat: Date.now() });
  }

  /** Takes that are being recorded and were last heard of before a time (ms since 1970). */
  async silentSince(ms: number): Promise<string[]> {
    return this.#db('takes')
      .where({ state: 'recording' })
      .andWhere('heartbeat', '<', ms)
      .pluck('id');
  }

  async inState(state: TakeState): Promise<string[]> {
    return this.#db('takes').where({ state }).pluck('id');
  }

  async ingest(takeId: string, cutShort: boolean): Promise<void> {
    await this.#db('takes')
      .where({ id: takeId })
      .update({ state: 'processing', cut_short: cutShort });
  }

  async ingested(
    takeId: string,
    durationUs: number,
    tracks: readonly IngestedTrack[],
    problem: string | null,
  ): Promise<void> {
    await this.#db.transaction(async (trx) => {
      // Processed anew, it may have lost a stream that it had.
      await trx('tracks').where({ take_id: takeId }).update({ ingested: false });
      const known = new Set<string>(await trx('tracks').where({ take_id: takeId }).pluck('id'));
      for (const track of tracks) {
        const facts = {
          duration_us: track.durationUs,
          width_px: track.widthPx,
          height_px: track.heightPx,
          digest: track.digest,
          bytes: track.bytes,
          ingested: true,
        };
        if (known.has(track.id)) await trx('tracks').where({ id: track.id }).update(facts);
        else
          await trx('tracks').insert({ id: track.id, take_id: takeId, kind: track.kind, ...facts });
      }
      await trx('takes')
        .where({ id: takeId })
        .update({ state: 'ready', problem, duration_us: durationUs });
    });
  }

  async unusable(takeId: string, problem: ErrorCode): Promise<void> {
    await this.#db('takes').where({ id: takeId }).update({ state: 'unusable', problem });
  }
}
