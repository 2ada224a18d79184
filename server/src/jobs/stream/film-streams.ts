import { likelyBytes } from '@under-chalk/core/destination/picture-size';
import type { StreamTrack } from '@under-chalk/core/contract/stream';
import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import {
  masterPlaylist,
  mediaPlaylist,
  targetSecondsOf,
  type Variant,
} from '@under-chalk/core/stream/playlist';
import {
  pictureSegments,
  soundSegments,
  type PictureSegment,
  type SoundSegment,
} from '@under-chalk/core/stream/segments';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import {
  chunkPath,
  codecOf,
  encodedStill,
  renditionSizeOf,
  PieceCache,
  pictureHead,
  pictureSegmentIn,
  readFilmIndex,
  segmentOfChunk,
  segmentOfPiece,
  soundHead,
  soundPath,
  soundSegmentIn,
  stillText,
  type AskedPiece,
  type FilmIndex,
} from '@under-chalk/render';
import { LRUCache } from 'lru-cache';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { setTimeout } from 'node:timers/promises';
import type { FilmStore, FilmStream, StoredFilm } from '../../store/film-store';
import type { MediaStore } from '../../store/media-store';

/** A film as it is streamed. */
interface Divided {
  readonly stream: FilmStream;
  readonly pictures: readonly PictureSegment[];
  readonly sound: readonly SoundSegment[];
  readonly targetSeconds: number;
  /** Playlists of its tracks, as far as they have been asked for. */
  readonly playlists: Map<StreamTrack, string>;
}

/** Films whose divisions, and finished ones whose indices, are held. */
const MOST_HELD = 24;
/** Segments that are held for the next who asks, bytes: a class watches the same film at the same time. */
const HELD_BYTES = 64 << 20;
/** Whether a piece has come is looked for this often; and asked for again this often, for a server that was stopped. */
const LOOK_MS = 40;
const ASK_MS = 3_000;
/** Whoever has waited so long is told, and asks again. */
const LONGEST_MS = 50_000;

const SOUND = { codec: 'mp4a.40.2', channels: 2 };
/** What the sound takes, bits a second, with what is wrapped round it. */
const SOUND_BITS = 176_000;
/** How many times as much the largest segment takes as they do on the whole, as long as nobody knows. */
const LIKELY_PEAK = 3;

/** Whoever makes films, and makes a piece next when it is told to. */
interface Asks {
  ask(filmId: string, piece: AskedPiece): Promise<void>;
  pathOf(filmId: string): string;
}

interface Streams {
  readonly films: FilmStore;
  readonly media: MediaStore;
  readonly maker: Asks;
  readonly chunksFolder: string;
  /** Longest that a piece is waited for in one request, ms. */
  readonly longestMs?: number;
}

/**
 * Films in pieces that are played before all are made. The playlist is known as soon as the film is planned; a segment is
 * read from the piece that it is made of, which is made next where it isn't there, or from the finished film.
 */
export class FilmStreams {
  readonly #films: FilmStore;
  readonly #media: MediaStore;
  readonly #maker: Asks;
  readonly #cache: PieceCache;
  readonly #divided = new LRUCache<string, Divided>({ max: MOST_HELD });
  readonly #segments = new LRUCache<string, Uint8Array>({
    maxSize: HELD_BYTES,
    sizeCalculation: ({ length }) => length,
  });
  readonly #indices = new LRUCache<string, Promise<FilmIndex>>({ max: MOST_HELD });

  readonly #longestMs: number;

  constructor({ films, media, maker, chunksFolder, longestMs = LONGEST_MS }: Streams) {
    this.#longestMs = longestMs;
    this.#films = films;
    this.#media = media;
    this.#maker = maker;
    this.#cache = new PieceCache(chunksFolder);
  }

  /** How a film is divided. @throws AppError `not-found` for one of an earlier version */
  async #of({ id, manifest_id }: StoredFilm): Promise<Divided> {
    const name = `${id} ${manifest_id}`;
    const held = this.#divided.get(name);
    if (held) return held;
    const stream = await this.#films.streamOf(id);
    if (!stream) throw new AppError('not-found', `film ${id} in pieces`);
    const counts = {
      chunks: stream.chunks.map(({ frames }) => frames),
      sound: stream.sound.map(({ frames }) => frames),
    };
    const [pictures, sound] = [pictureSegments(counts), soundSegments(counts)];
    const targetSeconds = targetSecondsOf([...pictures, ...sound]);
    const divided = { stream, pictures, sound, targetSeconds, playlists: new Map() };
    this.#divided.set(name, divided);
    return divided;
  }

  /** Where everything lies in a finished film, or in the one for slow lines; read once. */
  #indexOf(path: string): Promise<FilmIndex> {
    let index = this.#indices.get(path);
    if (!index) {
      index = readFilmIndex(path);
      this.#indices.set(path, index);
      index.catch(() => this.#indices.delete(path));
    }
    return index;
  }

  /** Width by height of a film's picture; null where it can't be played in pieces. */
  async aspectOf(film: StoredFilm): Promise<number | null> {
    const divided = await this.#of(film).catch(() => null);
    return divided && divided.stream.size.widthPx / divided.stream.size.heightPx;
  }

  /** Frames of a film at which its segments begin, and how large its picture is. */
  async startsOf(film: StoredFilm) {
    const { pictures, stream } = await this.#of(film);
    return { starts: pictures.map(({ frame }) => frame), size: stream.size };
  }

  /** @param under address that those of its tracks begin with */
  async masterPlaylist(film: StoredFilm, under: string): Promise<string> {
    const { stream, pictures } = await this.#of(film);
    const initSegment = await this.#encodedHead(stream);
    const likely = likelyBytes(stream.size, film.film_us) / (film.film_us / 1e6);
    const bits =
      film.state === 'done'
        ? await this.#bitsOf(this.#maker.pathOf(film.id), pictures)
        : { mean: likely * 8, peak: likely * 8 * LIKELY_PEAK };
    const variant = (uri: string, size: typeof stream.size, codec: string): Variant => ({
      ...{ uri, codec, ...size, framesPerSecond: FILM_FPS },
      ...{ peakBits: bits.peak + SOUND_BITS, meanBits: bits.mean + SOUND_BITS },
    });
    const variants = [variant(`${under}/picture.m3u8`, stream.size, codecOf(initSegment.pictures))];
    const narrow = this.#media.filmRendition(film.id);
    if (existsSync(narrow)) {
      const { pictures: table } = await this.#indexOf(narrow);
      const { mean, peak } = await this.#bitsOf(narrow, pictures);
      variants.push({
        ...variant(`${under}/narrow.m3u8`, renditionSizeOf(stream.size), codecOf(table)),
        ...{ peakBits: peak + SOUND_BITS, meanBits: mean + SOUND_BITS },
      });
    }
    return masterPlaylist({ variants, sound: { ...SOUND, uri: `${under}/sound.m3u8` } });
  }

  /** What pictures take, bits a second: on the whole, and the segment that takes most. */
  async #bitsOf(path: string, segments: readonly PictureSegment[]) {
    const { sizes } = (await this.#indexOf(path)).pictures;
    let [all, peak] = [0, 0];
    for (const { frame, frames, seconds } of segments) {
      let bytes = 0;
      for (let at = frame; at < frame + frames; at++) bytes += sizes[at] ?? 0;
      all += bytes;
      peak = Math.max(peak, (bytes * 8) / seconds);
    }
    return { mean: (all * 8) / (sizes.length / FILM_FPS), peak };
  }

  async mediaPlaylist(film: StoredFilm, track: StreamTrack): Promise<string> {
    const { pictures, sound, targetSeconds, playlists } = await this.#of(film);
    this.#needs(film, track);
    const before = playlists.get(track);
    if (before !== undefined) return before;
    const segments = track === 'sound' ? sound : pictures;
    const playlist = mediaPlaylist({
      headUri: `${track}/head.mp4`,
      segments: segments.map(({ seconds }, number) => ({
        uri: `${track}/${number}.m4s`,
        seconds,
      })),
      targetSeconds,
    });
    playlists.set(track, playlist);
    return playlist;
  }

  #needs(film: StoredFilm, track: StreamTrack): void {
    if (track === 'narrow' && !existsSync(this.#media.filmRendition(film.id))) {
      throw new AppError('not-found', `film ${film.id} for slow lines`);
    }
  }

  /** A picture of a film's size, encoded as its chunks are. */
  async #encodedHead({ size }: FilmStream): Promise<FilmIndex> {
    const path = this.#cache.pathOf(stillText(size), 'mp4');
    await this.#cache.obtain(path, (draft) => encodedStill(size, draft));
    return this.#indexOf(path);
  }

  /** What comes before the first segment of a track. */
  async head(film: StoredFilm, track: StreamTrack): Promise<Uint8Array> {
    if (track === 'sound') return soundHead();
    this.#needs(film, track);
    const { stream } = await this.#of(film);
    const index =
      track === 'narrow'
        ? await this.#indexOf(this.#media.filmRendition(film.id))
        : await this.#encodedHead(stream);
    return pictureHead(index.pictures);
  }

  /**
   * A segment of a track.
   *
   * @param signal nobody waits for it any more
   * @throws AppError `not-found`; `being-made` when it takes long; `not-ready` when it can't be had; the signal's reason
   */
  async segment(
    film: StoredFilm,
    track: StreamTrack,
    number: number,
    signal: AbortSignal,
  ): Promise<Uint8Array> {
    const name = `${film.id} ${film.manifest_id} ${track} ${number}`;
    const held = this.#segments.get(name);
    if (held) return held;
    const bytes = await this.#read(film, track, number, signal);
    this.#segments.set(name, bytes);
    return bytes;
  }

  async #read(
    film: StoredFilm,
    track: StreamTrack,
    number: number,
    signal: AbortSignal,
  ): Promise<Uint8Array> {
    const { stream, pictures, sound } = await this.#of(film);
    this.#needs(film, track);
    const segment = track === 'sound' ? sound[number] : pictures[number];
    if (!segment) throw new AppError('not-found', `segment ${number} of ${film.id}`);
    const whole = this.#maker.pathOf(film.id);
    if ('piece' in segment) {
      const path = soundPath(this.#cache, stream.sound[segment.piece]!.key);
      const piece = await this.#piece(film, { of: 'sound', index: segment.piece }, path, signal);
      if (piece) return segmentOfPiece(piece, segment, number);
      return soundSegmentIn(await this.#indexOf(whole), segment, number);
    }
    if (track === 'narrow') {
      return pictureSegmentIn(await this.#indexOf(this.#media.filmRendition(film.id)), segment);
    }
    const path = chunkPath(this.#cache, stream.chunks[number]!.key);
    const chunk = await this.#piece(film, { of: 'picture', index: number }, path, signal);
    if (chunk) return segmentOfChunk(chunk, segment);
    return pictureSegmentIn(await this.#indexOf(whole), segment);
  }

  /** A piece of a film that isn't finished, as soon as it is made; null: the film is finished, and it lies in there. */
  async #piece(
    { id }: StoredFilm,
    piece: AskedPiece,
    path: string,
    signal: AbortSignal,
  ): Promise<Buffer | null> {
    const began = Date.now();
    let code: ErrorCode = 'being-made';
    for (let askedAt = 0; Date.now() - began < this.#longestMs;) {
      signal.throwIfAborted();
      const { state } = await this.#films.get(id);
      if (state === 'done') return null;
      if (await this.#cache.has(path)) return readFile(path);
      if (state === 'failed' || state === 'cancelled') {
        code = 'not-ready';
        break;
      }
      if (Date.now() - askedAt > ASK_MS) {
        askedAt = Date.now();
        await this.#maker.ask(id, piece);
      }
      await setTimeout(LOOK_MS);
    }
    throw new AppError(code, `${piece.of} ${piece.index} of film ${id}`);
  }
}
