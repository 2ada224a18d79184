/** Brings hostile files into a real server, and looks whether it holds: nothing reached, nothing down, each told for what it is. */
import type { Material } from '@under-chalk/core/material/material';
import { errorText } from '@under-chalk/core/errors/errors';
import { hostileMaterials } from '@under-chalk/e2e/hostile-materials';
import type { RealServer } from '@under-chalk/e2e/server';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';

const LESSON = 'lesson-of-hostile-files';
/** Longest that a file may keep a reader busy, with the time it waits for others, ms. */
const MOST_MS = 120_000;

export interface Hostile {
  readonly tried: number;
  readonly held: number;
  /** What did not hold, in words. */
  readonly fell: readonly string[];
}

export const tryHostile = async (server: RealServer): Promise<Hostile> => {
  let asked = 0;
  const elsewhere = createServer((socket) => {
    asked++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}`;
  const fell: string[] = [];
  const files = hostileMaterials(address);
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Hostile' });
  try {
    for (const [index, { name, bytes }] of files.entries()) {
      const before = asked;
      const id = `material-hostile-${index}`;
      const began = Date.now();
      const problem = await hold(server, id, name, bytes).catch((error: unknown) => String(error));
      if (problem) fell.push(`${name}: ${problem}`);
      else if (asked > before) fell.push(`${name}: asked for something elsewhere`);
      console.log(`${String(Date.now() - began).padStart(6)} ms  ${problem ? 'FELL ' : ''}${name}`);
    }
  } finally {
    elsewhere.close();
  }
  return { tried: files.length, held: files.length - fell.length, fell };
};

/** @returns what went wrong; null when it held */
const hold = async (
  server: RealServer,
  id: string,
  name: string,
  bytes: Buffer,
): Promise<string | null> => {
  await server.ask('POST', `/api/lessons/${LESSON}/materials`, { id, name });
  await server.send(id, bytes);
  const end = Date.now() + MOST_MS;
  let material: Material;
  do material = await server.ask<Material>('POST', `/api/materials/${id}/read`, {});
  while (material.state === 'reading' && Date.now() < end);
  if (material.state === 'reading') return 'is read without end';
  if (material.state === 'unusable') {
    const { message: sentence } = errorText(material.problem ?? '');
    return sentence === errorText('unexpected').message ? `is told as ${material.problem}` : null;
  }
  // What can be shown can be asked for: a picture, or a sentence why not.
  const response = await fetch(`${server.url}/api/pages/${material.content}/0?width=1920`);
  await response.arrayBuffer();
  const health = await fetch(`${server.url}/api/health`);
  if (!health.ok) return 'the server is down';
  return response.status >= 500 && response.status !== 507
    ? `its page is answered with ${response.status}`
    : null;
};
