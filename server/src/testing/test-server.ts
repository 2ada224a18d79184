import type { AddressInfo } from 'node:net';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inspect } from 'node:util';
import { Buffer } from 'node:buffer';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import type { Act } from '@under-chalk/core/edit/edit';
import { createApp } from '../app';
import { foldersIn, NO_FRONT, type Config, type Front } from '../config';
import { doFilmWork } from '../jobs/film-work';
import type { Work } from '../jobs/film-maker';
import { copyEmptyDatabase } from './empty-database';
import type { Log } from '../log';
import type { Knex } from 'knex';
import { openParts } from '../open-parts';
import { openDatabase } from '../store/database';
import { newId } from '../store/ids';

/** A real server on a port of its own, with an empty data folder. For tests. */
export interface TestServer {
  readonly url: string;
  readonly config: Config;
  readonly parts: Awaited<ReturnType<typeof openParts>>['parts'];
  readonly logged: string[];
  /** Asks for a path; JSON in, JSON out. */
  ask(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<Asked>;
  /** Decides things about a lesson as it is now, each by itself, and gives the whole lesson back. */
  edit(lessonId: string, ...acts: Act[]): Promise<any>;
  /** Sends bytes of a track by tus, in pieces; `part`: more of it is to come. */
  upload(trackId: string, bytes: Buffer, pieceBytes?: number, part?: 'part'): Promise<number>;
  /** Sends the bytes of a track that begin at a place; `wholeBytes` where its length is known. */
  more(trackId: string, piece: Buffer, at: number, wholeBytes?: number): Promise<number>;
  /** Does something to its database, past all stores. */
  inDatabase<T>(work: (database: Knex) => Promise<T>): Promise<T>;
  /** Waits until a take is no longer processing. */
  ingested(takeId: string): Promise<string>;
  /** Stops the server; its folder stays. */
  stop(): Promise<void>;
  /** Stops it and removes its folder. */
  remove(): Promise<void>;
}

export interface Asked {
  readonly status: number;
  // The tests look into answers of every shape.
  readonly json: any;
  readonly headers: Headers;
}

/** Waits until a file is let go of. */
export const gone = async (path: string): Promise<void> => {
  while (existsSync(path)) await new Promise((resolve) => setTimeout(resolve, 20));
};

/** A log that is kept in a list. */
export const keptIn = (logged: string[]): Log => {
  const keep = (message: string, error?: unknown) => {
    const told = error instanceof Error ? String(error) : inspect(error);
    logged.push(error === undefined ? message : `${message}: ${told}`);
  };
  const log: Log = { info: () => undefined, warn: keep, error: keep, with: () => log };
  return log;
};

export const startTestServer = async (
  options: {
    demo?: boolean;
    home?: string;
    /** Absent: any that is free. */
    port?: number;
    work?: Work;
    mostBytes?: number;
    front?: Front;
    /** Who writes drafts ({@link Config.listener}). */
    listener?: string;
    /** The reader's program ({@link builtScript}), where materials are opened. */
    readerScript?: string;
    /** The thread that looks for pointers, built; else none are looked for. */
    pointerScript?: string;
    /** The thread that looks through pictures, built; else they aren’t. */
    pictureScript?: string;
    noiseReductionScript?: string;
    likenessScript?: string;
    /** The thread that makes pieces while a take is recorded, built; else it is done here. */
    aheadScript?: string;
    /** The thread that finds faces, built; else none are found. */
    faceScript?: string;
    /** The program of a film’s page in a course site, built ({@link builtScript}). */
    coursePlayer?: string;
  } = {},
): Promise<TestServer> => {
  const home = options.home ?? (await mkdtemp(join(tmpdir(), 'under-chalk-server-')));
  const config: Config = {
    port: 0,
    host: '127.0.0.1',
    demo: options.demo ?? true,
    front: options.front ?? NO_FRONT,
    readings: true,
    mostBytes: options.mostBytes ?? 100_000_000,
    cacheBytes: 1_000_000_000,
    listener: options.listener ?? null,
    folders: foldersIn(home),
    synchronous: 'OFF',
    appFolder: null,
  };
  await copyEmptyDatabase(config.folders.database);
  const logged: string[] = [];
  const { parts, start, close } = await openParts(
    config,
    options.work ?? doFilmWork,
    {
      fontFile: null,
      readerScript: options.readerScript ?? '',
      pointerScript: options.pointerScript ?? '',
      pictureScript: options.pictureScript ?? '',
      noiseReductionScript: options.noiseReductionScript ?? '',
      likenessScript: options.likenessScript ?? '',
      aheadScript: options.aheadScript ?? '',
      faceScript: options.faceScript ?? '',
      coursePlayer: options.coursePlayer ?? '',
      scormSchemas: join(__dirname, '..', '..', 'assets', 'scorm-1.2'),
    },
    keptIn(logged),
  );
  await start();
  const server = createApp(parts).listen(options.port ?? 0, '127.0.0.1');
  // A client that uses a connection again just as it is closed would be refused: on a busy machine that happens.
  server.keepAliveTimeout = 120_000;
  await new Promise((resolve) => server.once('listening', resolve));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const stop = async () => {
    server.close();
    server.closeAllConnections();
    await close();
  };
  const testServer: TestServer = {
    url,
    config,
    parts,
    logged,
    async edit(lessonId, ...acts) {
      const path = `/api/lessons/${lessonId}`;
      const { lesson } = (await testServer.ask('GET', path)).json;
      const entries = acts.map((edit) => ({ id: newId(), by: 'teacher', edit }));
      const { status } = await testServer.ask('POST', `${path}/edits`, {
        baseRevision: lesson.revision,
        entries,
      });
      if (status !== 200) throw new Error(`edits of ${lessonId}: ${status}`);
      return (await testServer.ask('GET', path)).json;
    },
    async ask(method, path, body, headers = {}) {
      const response = await fetch(url + path, {
        method,
        headers: {
          ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
          ...headers,
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      const text = await response.text();
      const isJson = response.headers.get('content-type')?.includes('json') ?? false;
      return {
        status: response.status,
        json: isJson ? JSON.parse(text) : text,
        headers: response.headers,
      };
    },
    async upload(trackId, bytes, pieceBytes = Math.max(1, bytes.length), part) {
      for (let at = 0; at === 0 || at < bytes.length; at += pieceBytes) {
        const piece = bytes.subarray(at, at + pieceBytes);
        const status = await testServer.more(trackId, piece, at, part ? undefined : bytes.length);
        if (status !== 204) return status;
      }
      return 201;
    },
    async more(trackId, piece, at, wholeBytes) {
      const tus = { 'Tus-Resumable': '1.0.0' };
      if (at === 0) {
        const { status } = await fetch(url + UPLOADS_PATH, {
          method: 'POST',
          headers: {
            ...tus,
            'Upload-Defer-Length': '1',
            'Upload-Metadata': `trackId ${Buffer.from(trackId).toString('base64')}`,
          },
        });
        if (status !== 201) return status;
      }
      if (piece.length === 0) return 204;
      const last = at + piece.length === wholeBytes;
      const sent = await fetch(`${url}${UPLOADS_PATH}/${trackId}`, {
        method: 'PATCH',
        headers: {
          ...tus,
          'Upload-Offset': String(at),
          'Content-Type': 'application/offset+octet-stream',
          ...(last ? { 'Upload-Length': String(wholeBytes) } : {}),
        },
        body: new Uint8Array(piece),
      });
      return sent.status;
    },
    async inDatabase(work) {
      const database = await openDatabase(config.folders.database);
      try {
        return await work(database);
      } finally {
        await database.destroy();
      }
    },
    async ingested(takeId) {
      for (;;) {
        const { state } = await parts.takes.get(takeId);
        if (state === 'ready' || state === 'unusable') return state;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    },
    stop,
    async remove() {
      await stop();
      await rm(home, { recursive: true, force: true });
    },
  };
  return testServer;
};
