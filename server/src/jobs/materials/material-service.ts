import { AppError } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import { existsSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { extname } from 'node:path';
import pLimit from 'p-limit';
import type { Folders } from '../../config';
import type { Log } from '../../log';
import { forgetMaterial, keepMaterial, officeFile, pdfOfOffice } from '../../store/material-files';
import type { MaterialStore } from '../../store/material-store';
import type { MediaStore } from '../../store/media-store';
import { officePdf } from './office';
import type { PagePictures } from './page-pictures';

/** Materials that are read at a time. */
const AT_ONCE = 2;
/** How wide the first page is made at once: it is seen next. */
const FIRST_PX = 960;

interface TakeServiceParts {
  readonly materials: MaterialStore;
  readonly pages: PagePictures;
  readonly media: MediaStore;
  readonly folders: Folders;
  readonly log: Log;
}

/** Reads what was brought in: how many pages it has, their shapes, and what they say. */
export class MaterialService {
  readonly #parts: TakeServiceParts;
  readonly #inTurn = pLimit(AT_ONCE);
  readonly #reading = new Map<string, Promise<void>>();
  readonly #listening = new Set<Promise<void>>();
  #closed = false;

  constructor(parts: TakeServiceParts) {
    this.#parts = parts;
  }

  /** Takes up what is here and unread: what a stopped server left, or what came with a whole lesson. */
  async takeUp(): Promise<void> {
    for (const id of await this.#parts.materials.unread()) {
      if (!this.#reading.has(id)) this.#queue(id);
    }
  }

  async close(): Promise<void> {
    this.#closed = true;
    this.#parts.pages.close();
    await Promise.all([...this.#reading.values(), ...this.#listening]);
  }

  /**
   * Has a material read whose bytes have all come, or that could not be read before. One that is read, or being read,
   * stays as it is.
   *
   * @throws AppError `not-found`; `not-ready` while bytes are missing
   */
  async read(id: string): Promise<void> {
    const { materials, media, folders } = this.#parts;
    const { state, content, name } = await materials.get(id);
    if (state === 'ready' || state === 'reading') return;
    if (state === 'unusable' && content) await materials.again(id);
    else {
      if (!(await media.isWhole(id))) throw new AppError('not-ready', `material ${id}`);
      const incoming = media.incoming(id);
      const { size } = await stat(incoming);
      await materials.came(id, await keepMaterial(folders, incoming, name), size);
      await media.forgetIncoming(id);
    }
    this.#queue(id);
  }

  /** Waits until a material can be shown, or it is known that it can't; no longer than `mostMs`. */
  async whenRead(id: string, mostMs: number): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<void>((resolve) => {
      timer = setTimeout(resolve, mostMs);
    });
    await Promise.race([this.#reading.get(id), late]);
    clearTimeout(timer);
  }

  /** Lets go of the files of contents that no lesson has any more. */
  async forget(contents: readonly string[]): Promise<void> {
    for (const content of contents) {
      if (!(await this.#parts.materials.isKept(content))) {
        await forgetMaterial(this.#parts.folders, content);
      }
    }
  }

  #queue(id: string): void {
    const reading = this.#inTurn(() => this.#read(id)).finally(() => this.#reading.delete(id));
    this.#reading.set(id, reading);
    const listening = reading.then(() => this.#findWords(id));
    this.#listening.add(listening);
    void listening.finally(() => this.#listening.delete(listening));
  }

  /** Never rejects: what goes wrong stands with the material. */
  async #read(id: string): Promise<void> {
    const { materials, pages, log } = this.#parts;
    try {
      const { content, name } = await materials.get(id);
      await this.#makePdf(content!, name);
      const facts = await pages.facts(content!);
      await pages.file({ content: content!, page: 0 }, FIRST_PX, 'webp');
      await materials.ready(id, facts);
    } catch (error) {
      // A stopped server goes on with it when it starts again.
      if (this.#closed) return;
      log.warn(`material ${id} can’t be read`, error);
      const code = isDiskFull(error)
        ? 'disk-full'
        : error instanceof AppError
          ? error.code
          : 'material-unreadable';
      await materials
        .unusable(id, code)
        .catch((failed: unknown) => log.error(`material ${id}`, failed));
    }
  }

  /** Makes a PDF of a file of an office program, unless there is one. */
  async #makePdf(content: string, name: string): Promise<void> {
    const { folders } = this.#parts;
    const office = officeFile(folders, content);
    const pdf = pdfOfOffice(folders, content);
    if (office && !existsSync(pdf)) await officePdf(office, extname(name).toLowerCase(), pdf);
  }

  /** Finds out what the pages say, once they can be shown. Of use, and nothing depends on it. */
  async #findWords(id: string): Promise<void> {
    const { materials, pages, log } = this.#parts;
    try {
      const { state, content, aspects } = await materials.get(id);
      if (state !== 'ready') return;
      const words: string[] = [];
      for (let page = 0; page < aspects.length && !this.#closed; page++) {
        words.push(await pages.words(content!, page).catch(() => ''));
      }
      if (!this.#closed) await materials.keepWords(id, words);
    } catch (error) {
      if (!this.#closed) log.warn(`what material ${id} says can’t be kept`, error);
    }
  }
}
