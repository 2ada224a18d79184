/** `npm run film -- <lesson id> --out film.mp4 [--size 720p|1080p|as-recorded]`: an export with no browser. */
import { pictureSizeSchema } from '@under-chalk/core/destination/size-name';
import { tell } from '@under-chalk/core/errors/errors';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { readConfig, shippedIn } from '../config';
import { doFilmWork, filmProblem } from '../jobs/film-work';
import { openDatabase } from '../store/database';
import { openSeal } from '../store/link-seal';
import { LessonStore } from '../store/lesson-store';
import { TakeStore } from '../store/take-store';

const USAGE = 'npm run film -- <lesson id> --out film.mp4 [--size 720p|1080p|as-recorded]';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { out: { type: 'string' }, size: { type: 'string', default: '1080p' } },
});
const size = pictureSizeSchema.safeParse(values.size);
const [lessonId] = positionals;
if (!lessonId || !values.out || !size.success) {
  console.error(USAGE);
  process.exit(2);
}

const config = readConfig(process.env, null);
const db = await openDatabase(config.folders.database, await openSeal(config.folders.home));
try {
  const lessons = new LessonStore(db, new TakeStore(db));
  const { lesson } = await lessons.view(lessonId);
  let told = -1;
  const report = await doFilmWork(
    {
      lesson,
      size: size.data,
      folders: config.folders,
      out: resolve(values.out),
      shipped: shippedIn(dirname(fileURLToPath(import.meta.url))),
    },
    ({ done, doing }) => {
      const percent = Math.floor(done * 100);
      if (percent >= told + 10 || (percent === 100 && told < 100))
        console.log(`${percent} % ${doing}`);
      if (percent >= told + 10) told = percent;
    },
  );
  console.log(`${values.out}: ${report.pieces} pieces, ${report.rendered} of them rendered now`);
} catch (error) {
  const { code, detail } = filmProblem(error);
  console.error(`${tell(code).sentence} ${tell(code).next} (${detail})`);
  process.exitCode = 1;
} finally {
  await db.destroy();
}
