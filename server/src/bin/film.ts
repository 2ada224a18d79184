/**
 * `npm run film -- <lesson id, or an archive of one> --out film.mp4 [--size 720p|1080p|as-recorded]`: an export with no browser.
 */
import { pictureSizeSchema } from '@under-chalk/core/destination/size-name';
import { errorText } from '@under-chalk/core/errors/errors';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { idSchema } from '@under-chalk/core/lesson/take';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { foldersIn, readConfig, shippedIn, type Folders } from '../config';
import { doFilmWork, filmProblem, type FilmReport } from '../jobs/film-work';
import type { Log } from '../log';
import { openParts } from '../open-parts';
import { openDatabase } from '../store/database';
import { newId } from '../store/ids';
import { LessonStore } from '../store/lesson-store';
import { TakeStore } from '../store/take-store';

type Make<T> = (lesson: Lesson, folders: Folders) => Promise<T>;

const USAGE =
  'npm run film -- <lesson id | lesson.zip> --out film.mp4 [--size 720p|1080p|as-recorded]';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { out: { type: 'string' }, size: { type: 'string', default: '1080p' } },
});
const size = pictureSizeSchema.safeParse(values.size);
const [named] = positionals;
if (!named || !values.out || !size.success) {
  console.error(USAGE);
  process.exit(2);
}
const out = resolve(values.out);
const shipped = shippedIn(dirname(fileURLToPath(import.meta.url)));
const config = readConfig(process.env, null);

/** What goes wrong beside the film is said on the side. */
const log: Log = {
  info: () => undefined,
  warn: (message) => console.error(message),
  error: (message, error) => console.error(message, error),
  with: () => log,
};

/** A lesson that stays where it is. */
const ofLesson = async <T>(id: string, make: Make<T>): Promise<T> => {
  const db = await openDatabase(config.folders.database);
  try {
    const { lesson } = await new LessonStore(db, new TakeStore(db)).view(id);
    return await make(lesson, config.folders);
  } finally {
    await db.destroy();
  }
};

/** A lesson in an archive: opened in a folder of its own, which goes when the film is made. */
const ofArchive = async <T>(path: string, make: Make<T>): Promise<T> => {
  const home = await mkdtemp(join(tmpdir(), 'under-chalk-archive-'));
  const folders = foldersIn(home);
  try {
    const { parts, close } = await openParts({ ...config, folders }, doFilmWork, shipped, log);
    try {
      const id = await parts.bundles.openFile(path, newId());
      for (;;) {
        const { lesson } = await parts.lessons.view(id);
        const materials = await parts.materials.ofLesson(id);
        const states = [...lesson.takes, ...materials].map(({ state }) => state);
        if (states.every((state) => ['ready', 'unusable'].includes(state)))
          return await make(lesson, folders);
        await setTimeout(100);
      }
    } finally {
      await close();
    }
  } finally {
    await rm(home, { recursive: true, force: true });
  }
};

try {
  let told = -1;
  const make: Make<FilmReport> = (lesson, folders) =>
    doFilmWork({ lesson, size: size.data, folders, out, shipped }, ({ done, doing }) => {
      const percent = Math.floor(done * 100);
      if (percent >= told + 10 || (percent === 100 && told < 100))
        console.log(`${percent} % ${doing}`);
      if (percent >= told + 10) told = percent;
    });
  const isArchive = !idSchema.safeParse(named).success;
  const report = await (isArchive ? ofArchive(resolve(named), make) : ofLesson(named, make));
  console.log(`${values.out}: ${report.pieces} pieces, ${report.rendered} of them rendered now`);
} catch (error) {
  const { code, detail } = filmProblem(error);
  console.error(`${errorText(code).message} ${errorText(code).hint} (${detail})`);
  process.exitCode = 1;
}
