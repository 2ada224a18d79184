import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run } from '../ffmpeg/run';
import { checkFilm, FilmCheckError } from './check-film';

jest.setTimeout(120_000);

let folder: string;
let film: string;
const FRAMES = 90;

/** A film of three seconds; its index stands before its pictures. */
const make = async (name: string, ...more: string[]): Promise<string> => {
  const path = join(folder, name);
  await run('ffmpeg', [
    ...[
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=160x90:r=30',
      '-f',
      'lavfi',
      '-i',
      'sine=r=48000',
      '-t',
      '3',
    ],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac', ...more],
    ...['-movflags', '+faststart', path],
  ]);
  return path;
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-check-'));
  film = await make('film.mp4');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

it('finds nothing wrong with a film that is as planned', () =>
  expect(checkFilm(film, FRAMES)).resolves.toBeUndefined());

it('tells of frames that are missing or too many', async () => {
  await expect(checkFilm(film, FRAMES + 1)).rejects.toThrow('90 frames of 91');
  await expect(checkFilm(film, FRAMES - 1)).rejects.toThrow(FilmCheckError);
});

it('tells of sound that is missing, or ends before the picture', async () => {
  await expect(checkFilm(await make('mute.mp4', '-an'), FRAMES)).rejects.toThrow('no s of sound');
  const short = await make('short.mp4', '-af', 'atrim=0:2');
  await expect(checkFilm(short, FRAMES)).rejects.toThrow('of sound of 3.000');
});

it('tells of an end that can’t be decoded', async () => {
  const broken = await readFile(film);
  broken.fill(0xff, Math.round(broken.length * 0.9));
  const path = join(folder, 'broken.mp4');
  await writeFile(path, broken);
  await expect(checkFilm(path, FRAMES)).rejects.toThrow(FilmCheckError);
});
