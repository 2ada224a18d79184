import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runThread } from './run-thread';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-thread-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

it('terminates a thread that hangs and doesn’t stop when it is told to', async () => {
  const script = join(folder, 'hangs.cjs');
  await writeFile(
    script,
    `require('node:worker_threads').parentPort.postMessage({ is: 'progress', share: 0.5 }); for (;;);`,
  );
  const stop = new AbortController();
  const working = runThread(script, {}, () => stop.abort(new Error('called off')), stop.signal, 50);
  await expect(working).rejects.toThrow('called off');
});
