import { AppError } from '@under-chalk/core/errors/errors';
import type { MaterialPage } from '@under-chalk/core/material/material';
import { PieceCache, type PageFile } from '@under-chalk/render';
import { LRUCache } from 'lru-cache';
import { availableParallelism } from 'node:os';
import pLimit from 'p-limit';
import type { Folders } from '../../config';
import { materialFile } from '../../store/material-files';
import { Reader } from './reader';
import type { Answers, PictureFormat } from './reading';

/** Part of the name of every picture: raise it when pages are painted differently. */
const VERSION = 2;
/** Materials that are held open: the next page of one is there at once. */
const OPEN_AT_ONCE = 3;
const PAINTED_AT_ONCE = Math.max(2, availableParallelism());
/** One that nobody asks for is closed after this long. */
const IDLE_MS = 60_000;

interface Open {
  readonly reader: Reader;
  readonly facts: Promise<Answers['open']>;
  /** How many are using it; one that is used is closed when they are done. */
  users: number;
  leaving: boolean;
}

/** Opens materials, each in a process of its own, and makes pictures of their pages. */
export class PagePictures {
  readonly #folders: Folders;
  readonly #script: string;
  readonly #cache: PieceCache;
  readonly #open = new LRUCache<string, Open>({
    max: OPEN_AT_ONCE,
    ttl: IDLE_MS,
    ttlAutopurge: true,
    updateAgeOnGet: true,
    dispose: (open) => {
      open.leaving = true;
      if (open.users === 0) open.reader.close();
    },
  });

  /** A list of many materials asks for all of them at once. */
  readonly #inTurn = pLimit(PAINTED_AT_ONCE);
  #spare: Reader | null = null;

  /** @param script the built reader's process */
  constructor(folders: Folders, script: string) {
    this.#folders = folders;
    this.#script = script;
    this.#cache = new PieceCache(folders.pages);
  }

  #opened(content: string): Open {
    const present = this.#open.get(content);
    if (present && !present.reader.over) return present;
    const path = materialFile(this.#folders, content);
    if (!path) throw new AppError('not-found', `material ${content}`);
    const spare = this.#spare;
    this.#spare = null;
    const reader = spare && !spare.over ? spare : new Reader(this.#script);
    const facts = reader.ask({ ask: 'open', path, name: path });
    // Told to whoever asks; one that can't be opened isn't held.
    facts.catch(() => this.#open.delete(content));
    const opened: Open = { reader, facts, users: 0, leaving: false };
    this.#open.set(content, opened);
    return opened;
  }

  /** Has a process ready for what is about to come in. */
  warm(): void {
    if (this.#spare && !this.#spare.over) return;
    const spare = new Reader(this.#script);
    this.#spare = spare;
    void spare.ask({ ask: 'warm' }).catch(() => undefined);
    const idle = setTimeout(() => {
      if (this.#spare !== spare) return;
      this.#spare = null;
      spare.close();
    }, IDLE_MS);
    idle.unref();
  }

  async #use<T>(
    content: string,
    work: (reader: Reader, facts: Answers['open']) => Promise<T>,
  ): Promise<T> {
    const opened = this.#opened(content);
    opened.users++;
    try {
      return await work(opened.reader, await opened.facts);
    } finally {
      opened.users--;
      if (opened.leaving && opened.users === 0) opened.reader.close();
    }
  }

  /** What there is in a material. @throws AppError why it can't be shown */
  facts(content: string): Promise<Answers['open']> {
    return this.#use(content, async (_reader, facts) => facts);
  }

  /** What a page says. @throws AppError */
  words(content: string, page: number): Promise<string> {
    return this.#use(content, (reader) => reader.ask({ ask: 'words', page }));
  }

  /**
   * A page as a picture: the one there is, or one that is made now.
   *
   * @returns its path
   * @throws AppError `not-found`, or why it can't be shown
   */
  async file(
    { content, page }: Pick<MaterialPage, 'content' | 'page'>,
    widthPx: number,
    format: PictureFormat,
  ): Promise<string> {
    const path = this.#cache.pathOf(JSON.stringify([VERSION, content, page, widthPx]), format);
    return this.#cache.obtain(path, (out) =>
      this.#inTurn(() =>
        this.#use(content, async (reader, { aspects }) => {
          if (page >= aspects.length) throw new AppError('not-found', `page ${page}`);
          await reader.ask({ ask: 'paint', page, widthPx, format, out });
        }),
      ),
    );
  }

  /** Pages for a film: as wide as they are shown, and without loss. */
  readonly forFilm: PageFile = (page, widthPx) => this.file(page, widthPx, 'png');

  prune(mostBytes: number): Promise<void> {
    return this.#cache.prune(mostBytes);
  }

  /** Closes all that is open, whoever uses it. */
  close(): void {
    for (const { reader } of this.#open.values()) reader.close();
    this.#open.clear();
    this.#spare?.close();
    this.#spare = null;
  }
}
