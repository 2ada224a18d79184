import type { MaterialPage } from '@under-chalk/core/material/material';
import {
  PICTURE_VERSION,
  pageReadingSchema,
  type PageReading,
} from '@under-chalk/core/picture/reading';
import { PieceCache } from '@under-chalk/render';
import type { LimitFunction } from 'p-limit';
import { readFile, writeFile } from 'node:fs/promises';
import type { Folders } from '../../config';
import type { Log } from '../../log';
import type { PagePictures } from '../materials/page-pictures';
import { heavyWork } from '../heavy-work';
import { runThread } from '../run-thread';
import type { Calm } from './calm';
import type { PageWork } from './picture-thread';
import { readSizeOf } from './text-reader';

interface PageParts {
  readonly folders: Folders;
  readonly pages: PagePictures;
  /** The built thread (`picture-thread`); empty: nothing is read. */
  readonly script: string;
  readonly log: Log;
  readonly inTurn: LimitFunction;
  readonly calm: Calm;
}

/** What can be read on pages of materials: found out when it is asked for, and kept with their pictures. */
export class PageReadings {
  readonly #parts: PageParts;
  readonly #cache: PieceCache;
  /** Pages that are being read, or couldn't be: those aren't tried again before the next start. */
  readonly #waiting = new Set<string>();
  readonly #failed = new Set<string>();
  readonly #over = new Set<Promise<void>>();
  readonly #stopping = new AbortController();

  constructor(parts: PageParts) {
    this.#parts = parts;
    this.#cache = new PieceCache(parts.folders.pages);
  }

  async close(): Promise<void> {
    this.#stopping.abort(new Error('the server is stopping'));
    await Promise.all(this.#over);
  }

  /** What can be read on a page; null where that can't be found out, `looking` while it is. Asked for, it is begun. */
  async readingOf(page: MaterialPage): Promise<PageReading | 'looking' | null> {
    const path = this.#pathOf(page);
    if (await this.#cache.has(path)) {
      const read = pageReadingSchema.safeParse(JSON.parse(await readFile(path, 'utf8')));
      if (read.success) return read.data;
    }
    if (this.#parts.script === '' || this.#failed.has(path)) return null;
    if (!this.#waiting.has(path)) this.#begin(page, path);
    return 'looking';
  }

  #pathOf({ content, page }: MaterialPage): string {
    return this.#cache.pathOf(JSON.stringify(['text', PICTURE_VERSION, content, page]), 'json');
  }

  #begin(page: MaterialPage, path: string): void {
    const { inTurn, pages, script, log, calm } = this.#parts;
    const { signal } = this.#stopping;
    this.#waiting.add(path);
    const over = inTurn(async () => {
      await calm(signal);
      if (signal.aborted) return;
      const size = readSizeOf(page.aspect);
      const work: PageWork = { picture: await pages.file(page, size.widthPx, 'png'), ...size };
      const reading = () => runThread<PageReading>(script, work, () => undefined, signal);
      const read = await heavyWork.run('reading', reading, signal);
      await this.#cache.obtain(path, (draft) => writeFile(draft, JSON.stringify(read)));
    })
      .catch((error: unknown) => {
        if (signal.aborted) return;
        this.#failed.add(path);
        log.warn(`page ${page.page} of material ${page.content} can’t be read`, error);
      })
      .finally(() => {
        this.#waiting.delete(path);
        this.#over.delete(over);
      });
    this.#over.add(over);
  }
}
