import { isErrorCode } from '@under-chalk/core/errors/errors';
import type { Take } from '@under-chalk/core/lesson/take';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hostileFile, soundFiles } from './hostile-files';
import { startEmpty } from './prepared-homes';

/** Longest that a small file may be in the making on a busy machine, ms. */
const MOST_MS = 60_000;

/** What went wrong with a file, by its seed. */
export interface Fault {
  readonly seed: number;
  readonly what: string;
  readonly fault: string;
}

export interface Fuzzed {
  readonly cases: number;
  readonly ready: number;
  readonly slowestMs: number;
  readonly faults: readonly Fault[];
}

/**
 * Has a real server process hostile files, some as films that are brought in and some as recordings, and
 * watches it: none may take long, end the server, or leave a take without a state that can be acted on.
 *
 * @param onCase told after each
 */
export const fuzz = async (
  seeds: readonly number[],
  onCase: (seed: number, what: string, told: string) => void = () => undefined,
): Promise<Fuzzed> => {
  const folder = mkdtempSync(join(tmpdir(), 'under-chalk-fuzz-'));
  const server = await startEmpty();
  const faults: Fault[] = [];
  let ready = 0;
  let slowestMs = 0;
  try {
    const sound = soundFiles(folder);
    await server.ask('POST', '/api/lessons', { id: 'lesson-fuzz', title: 'Hostile files' });
    for (const seed of seeds) {
      const { what, bytes } = hostileFile(seed, sound);
      const id = `take-${String(seed).padStart(6, '0')}`;
      const source = seed % 3 === 0 ? 'screen' : 'film';
      await server.ask('POST', '/api/lessons/lesson-fuzz/takes', {
        id,
        source,
        practice: true,
        tracks: [{ id: `${id}-track`, kind: 'surface' }],
      });
      await server.send(`${id}-track`, bytes);
      await server.ask('POST', `/api/takes/${id}/stop`, {});
      const began = Date.now();
      let take: Take;
      do {
        await new Promise((resolve) => setTimeout(resolve, 40));
        take = await server.ask<Take>('GET', `/api/takes/${id}`);
      } while (take.state === 'processing' && Date.now() - began < MOST_MS);
      const ms = Date.now() - began;
      slowestMs = Math.max(slowestMs, ms);
      const told = `${take.state} ${take.problem ?? ''} ${ms} ms`;
      onCase(seed, `${source} ${what}`, told);
      if (take.state === 'ready') ready++;
      const acted = take.state === 'ready' || (take.problem !== null && isErrorCode(take.problem));
      if (!acted) faults.push({ seed, what, fault: told });
      const rows = await server.ask<unknown>('GET', '/api/lessons');
      if (!Array.isArray(rows)) faults.push({ seed, what, fault: 'the lessons can’t be listed' });
      if (!server.lives) {
        faults.push({ seed, what, fault: 'the server ended' });
        await server.up();
      }
    }
  } finally {
    await server.remove();
    rmSync(folder, { recursive: true, force: true });
  }
  return { cases: seeds.length, ready, slowestMs, faults };
};
