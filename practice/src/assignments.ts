import type Router from '@koa/router';
import type { Context, Next } from 'koa';
import { koaBody } from 'koa-body';
import { ALL_FORMATS, FilePathSource, Input } from 'mediabunny';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, mkdtemp } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { limitsInWords, toldPage } from './pages';
import { WEEKS, type Assignment, type Item } from './course';
import type { Kept } from './kept';
import { bodyOf, html, textOf, type Known } from './visit';

/** A file as the form brings it. */
interface Brought {
  readonly filepath: string;
  readonly originalFilename: string | null;
  readonly size: number;
}

/** How long a film is, s; null where it is none. */
const secondsOf = async (path: string): Promise<number | null> => {
  const input = new Input({ formats: ALL_FORMATS, source: new FilePathSource(path) });
  try {
    return (await input.getPrimaryVideoTrack()) ? await input.computeDuration() : null;
  } catch {
    return null;
  }
};

/**
 * Assignments, to which a film is handed in as a file. Bytes and length are limits that hold.
 *
 * @param folder files are kept in; undefined: one that is nobody's
 */
export const assignments = (
  router: Router,
  { kept, known, folder }: { kept: Kept; known: Known; folder: string | undefined },
): void => {
  let made: Promise<string> | null = null;
  const files = () =>
    (made ??= folder
      ? mkdir(folder, { recursive: true }).then(() => folder)
      : mkdtemp(join(tmpdir(), 'practice-handed-in-')));
  const find = (id: string): (Item & { shows: Assignment }) | null => {
    const item = kept.now.items.find((one) => one.id === id);
    return item?.shows.is === 'assignment' ? { ...item, shows: item.shows } : null;
  };

  router.post(
    '/assign',
    known(async (ctx, who) => {
      const told = bodyOf(ctx);
      const week = WEEKS.find((one) => one === told['week']);
      const [mb, minutes] = [Number(told['mb']), Number(told['minutes'])];
      const title = textOf(told['title']).trim();
      if (!who.teaches || !week || title === '' || !(mb > 0) || !(minutes > 0))
        return html(ctx, toldPage('A title, and limits of more than nothing, are needed.', who));
      const shows = {
        ...{ is: 'assignment' as const, text: textOf(told['text']) },
        ...{ mostBytes: Math.round(mb * 1e6), mostSeconds: minutes * 60 },
      };
      await kept.change({ items: [...kept.now.items, { id: randomUUID(), week, title, shows }] });
      return ctx.redirect('/course');
    }),
  );

  /** Takes a form with a file in it, of no more than the assignment allows. */
  const taking = async (ctx: Context, next: Next): Promise<void> => {
    const item = find(String(ctx['params'].id));
    if (!item) return html(ctx, toldPage('There is nothing here.', null));
    const most = item.shows.mostBytes;
    try {
      await koaBody({ multipart: true, formidable: { maxFileSize: most, maxTotalFileSize: most } })(
        ctx as never,
        () => Promise.resolve(),
      );
    } catch (error) {
      if ((error as { httpCode?: number }).httpCode !== 413) throw error;
      ctx.status = 413;
      return html(ctx, toldPage(`Too large: ${limitsInWords(item.shows)}.`, null));
    }
    await next();
  };
  router.post(
    '/item/:id/submission',
    taking as never,
    known(async (ctx, who) => {
      const item = find(String(ctx['params'].id))!;
      const told = (ctx.request as { files?: { file?: Brought | Brought[] } }).files?.file;
      const file = Array.isArray(told) ? told[0] : told;
      const seconds = file && file.size > 0 ? await secondsOf(file.filepath) : null;
      const refused = (status: number, why: string) => {
        ctx.status = status;
        html(ctx, toldPage(why, who));
      };
      if (!file || seconds === null) return refused(415, 'That is no film.');
      // Half a second is nobody’s fault.
      if (seconds > item.shows.mostSeconds + 0.5)
        return refused(413, `Too long: ${limitsInWords(item.shows)}.`);
      const one = {
        ...{ id: randomUUID(), itemId: item.id, personId: who.id, bytes: file.size, seconds },
        ...{ name: file.originalFilename ?? 'film', at: new Date().toISOString() },
      };
      await copyFile(file.filepath, join(await files(), one.id));
      await kept.change({ handedIn: [...kept.now.handedIn, one] });
      return html(ctx, toldPage(`“${one.name}” is handed in.`, who));
    }),
  );
  router.get(
    '/handed-in/:id',
    known(async (ctx, who) => {
      const one = kept.now.handedIn.find(({ id }) => id === ctx['params'].id);
      if (!one || !(who.teaches || one.personId === who.id))
        return html(ctx, toldPage('There is nothing here.', who));
      ctx.attachment(one.name);
      ctx.body = createReadStream(join(await files(), one.id));
    }),
  );
};
