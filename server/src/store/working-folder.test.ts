import { mkdir, mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openWorkingFolder } from './working-folder';

let home: string;
beforeEach(async () => {
  home = await mkdtemp(join(tmpdir(), 'under-chalk-working-'));
});
afterEach(() => rm(home, { recursive: true, force: true }));

it('removes what a killed server left, and has new files made there', async () => {
  const left = join(home, 'working', 'under-chalk-voice-1');
  await mkdir(left, { recursive: true });
  await writeFile(join(left, 'voice.wav'), 'somebody speaks');
  const environment: NodeJS.ProcessEnv = { TMPDIR: '/elsewhere' };
  const folder = await openWorkingFolder(home, environment);
  expect(environment['TMPDIR']).toBe(folder);
  expect(await readdir(folder)).toEqual([]);
  expect((await stat(folder)).mode & 0o777).toBe(0o700);
});

it('changes nothing where the data folder can’t be written to', async () => {
  await writeFile(join(home, 'file'), '');
  const environment: NodeJS.ProcessEnv = { TMPDIR: '/elsewhere' };
  await expect(openWorkingFolder(join(home, 'file'), environment)).rejects.toThrow();
  expect(environment['TMPDIR']).toBe('/elsewhere');
});
