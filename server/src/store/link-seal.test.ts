import { mkdtemp, readdir, readFile, stat, truncate } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openSeal } from './link-seal';

const newHome = () => mkdtemp(join(tmpdir(), 'under-chalk-seal-'));

it('makes a key once, whole from the first moment and for its owner alone', async () => {
  const home = await newHome();
  const sealed = (await openSeal(home)).sealed('a token');
  expect(await readdir(home)).toEqual(['links.key']);
  expect((await stat(join(home, 'links.key'))).mode & 0o777).toBe(0o600);
  expect((await openSeal(home)).opened(sealed)).toBe('a token');
});

it.each([0, 12, 31])('never replaces a key that is damaged: %i bytes are left', async (bytes) => {
  const home = await newHome();
  await openSeal(home);
  const path = join(home, 'links.key');
  await truncate(path, bytes);
  const left = await readFile(path);
  await expect(openSeal(home)).rejects.toMatchObject({ code: 'links-key-damaged' });
  expect(await readFile(path)).toEqual(left);
});

it('opens for one purpose nothing that was sealed for another', async () => {
  const seal = await openSeal(await newHome());
  const ticket = seal.for('segment tickets').sealed('a ticket');
  expect(seal.for('segment tickets').opened(ticket)).toBe('a ticket');
  expect(seal.for('launch states').opened(ticket)).toBeNull();
  expect(seal.opened(ticket)).toBeNull();
  expect(seal.for('segment tickets').opened(seal.sealed('a password'))).toBeNull();
});
