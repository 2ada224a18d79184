import type { LessonView } from '@under-chalk/core/contract/lessons';
import type { Act } from '@under-chalk/core/edit/edit';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { Take, TrackKind } from '@under-chalk/core/lesson/take';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Told by whoever runs this from elsewhere (a benchmark, bundled into one file). */
export const ROOT = process.env['UNDER_CHALK_ROOT'] ?? join(import.meta.dirname, '..', '..');

export const freePort = async (): Promise<number> => {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as AddressInfo;
  probe.close();
  await once(probe, 'close');
  return port;
};

/** On a busy machine a start takes many times as long as on a quiet one. */
const START_MS = 60_000;

/** The real server, as a process of its own that can be killed and started again on the same data. */
export class RealServer {
  readonly home: string;
  readonly port: number;
  readonly #demo: boolean;
  readonly #env: Readonly<Record<string, string>>;
  #child: ChildProcess | null = null;
  #printed = '';
  #logged = '';

  private constructor(home: string, port: number, demo: boolean, env: Record<string, string>) {
    this.home = home;
    this.port = port;
    this.#demo = demo;
    this.#env = env;
  }

  /** @param home a folder of its own, which is removed at the end; made when none is given */
  static async start({
    demo = true,
    home,
    env = {},
  }: { demo?: boolean; home?: string; env?: Record<string, string> } = {}): Promise<RealServer> {
    const folder = home ?? (await mkdtemp(join(tmpdir(), 'under-chalk-e2e-')));
    const server = new RealServer(folder, await freePort(), demo, env);
    await server.up();
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async up(): Promise<void> {
    this.#child = spawn(process.execPath, [join(ROOT, 'server', 'dist', 'main.js')], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        PORT: String(this.port),
        UNDER_CHALK_HOME: this.home,
        UNDER_CHALK_DEMO: this.#demo ? '1' : '0',
        ...this.#env,
      },
    });
    this.#child.stdout?.setEncoding('utf8').on('data', (text: string) => {
      this.#printed += text;
    });
    this.#child.stderr?.setEncoding('utf8').on('data', (text: string) => {
      this.#logged += text;
      process.stderr.write(text);
    });
    const until = Date.now() + START_MS;
    while (this.lives && Date.now() < until) {
      const answer = await fetch(`${this.url}/api/health`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(
      this.lives ? `the server does not answer within ${START_MS} ms` : 'the server has ended',
    );
  }

  /** Whether its process is there. */
  get lives(): boolean {
    return this.#child !== null && this.#child.exitCode === null;
  }

  /** What it has logged so far, a line of JSON each. */
  get logged(): string {
    return this.#logged;
  }

  /** What it has printed so far. */
  get printed(): string {
    return this.#printed;
  }

  /** Ends it as a power cut would. */
  async kill(): Promise<void> {
    const child = this.#child;
    this.#child = null;
    if (!child || child.exitCode !== null) return;
    child.kill('SIGKILL');
    await once(child, 'close');
  }

  /** Tells it to stop, and waits until it has. @returns how long that took, ms */
  async stop(): Promise<number> {
    const child = this.#child;
    this.#child = null;
    if (!child || child.exitCode !== null) throw new Error('it is not there');
    const began = Date.now();
    const ended = once(child, 'close');
    child.kill('SIGTERM');
    await ended;
    return Date.now() - began;
  }

  async remove(): Promise<void> {
    await this.kill();
    await rm(this.home, { recursive: true, force: true });
  }

  /** Asks the API. */
  async ask<T>(method: string, path: string, body?: unknown): Promise<T> {
    const response = await this.#reach(path, {
      method,
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
    return (await response.json()) as T;
  }

  /** Sends all bytes of a track by tus 1.0. */
  async send(trackId: string, bytes: Buffer): Promise<void> {
    await this.more(trackId, bytes, 0, bytes.length);
  }

  /** Sends the bytes of a track that begin at a place, of so many in all. */
  async more(trackId: string, piece: Buffer, at: number, wholeBytes: number): Promise<void> {
    const tus = { 'Tus-Resumable': '1.0.0' };
    if (at === 0) {
      await fetch(`${this.url}/api/uploads`, {
        method: 'POST',
        headers: {
          ...tus,
          'Upload-Length': String(wholeBytes),
          'Upload-Metadata': `trackId ${Buffer.from(trackId).toString('base64')}`,
        },
      });
    }
    if (piece.length === 0) return;
    await fetch(`${this.url}/api/uploads/${trackId}`, {
      method: 'PATCH',
      headers: {
        ...tus,
        'Upload-Offset': String(at),
        'Content-Type': 'application/offset+octet-stream',
      },
      body: new Uint8Array(piece),
    });
  }

  async lesson(id: string): Promise<Lesson> {
    return (await this.ask<LessonView>('GET', `/api/lessons/${id}`)).lesson;
  }

  /** What a lesson's film comes to now. */
  async film(id: string): Promise<Film> {
    return filmOf(await this.lesson(id));
  }

  /** Decides things about a lesson as it is now. */
  async edit(id: string, ...acts: Act[]): Promise<void> {
    const entries = acts.map((edit) => ({ id: randomUUID(), by: 'teacher', edit }));
    const { revision } = await this.lesson(id);
    await this.ask('POST', `/api/lessons/${id}/edits`, { baseRevision: revision, entries });
  }

  /** Waits until the last take of a lesson is ready. */
  async takeWhen(lessonId: string, mostSeconds = 180, everyMs = 300): Promise<Take> {
    for (const until = Date.now() + mostSeconds * 1000; Date.now() < until;) {
      const take = (await this.lesson(lessonId)).takes.at(-1);
      if (take?.state === 'ready') return take;
      if (take?.state === 'unusable') throw new Error(`the take is unusable: ${take.problem}`);
      await new Promise((resolve) => setTimeout(resolve, everyMs));
    }
    throw new Error('the take does not become ready');
  }

  /** The processed file of a track. */
  trackFile(take: Take, kind: TrackKind): string {
    const track = take.tracks.find((candidate) => candidate.kind === kind);
    if (!track) throw new Error(`the take has no ${kind}`);
    return join(this.home, 'media', `${track.id}.mp4`);
  }

  /** A kept connection may be closed by the server in the moment it is used again: then it is asked anew. */
  async #reach(path: string, init: RequestInit): Promise<Response> {
    for (let tries = 0; ; tries++) {
      try {
        return await fetch(this.url + path, init);
      } catch (error) {
        if (tries >= 3) throw error;
        await new Promise((resolve) => setTimeout(resolve, 200));
      }
    }
  }
}
