import { AppError } from '@under-chalk/core/errors/errors';
import { filmOf } from '@under-chalk/core/film/film';
import { inkmlOf } from '@under-chalk/core/ink/inkml';
import { notesOf } from '@under-chalk/core/ink/notes';
import { svgOf } from '@under-chalk/core/ink/svg';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import type { Us } from '@under-chalk/core/time/us';
import { readFile } from 'node:fs/promises';
import type { NotesPage } from '@under-chalk/core/ink/notes';
import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import type { MediaStore } from '../../store/media-store';
import type { PagePictures } from '../materials/page-pictures';
import { inkOfFilm } from '../ink-of';
import { notesPdf, type NotesPdf } from './notes-pdf';

/** PDFs made at a time: whoever asks for many waits. */
const AT_ONCE = 2;
/** How wide pictures of materials are on pages that students keep, px: they are printed. */
const PICTURE_PX = 1920;
/** Films whose pages are remembered: a class asks for the same ones. */
const REMEMBERED = 50;

/** Most bytes of typeset PDFs kept in memory. */
const HELD_BYTES = 32 << 20;

/** Pages of a film, with what stands on each. */
type NotesOfFilm = Pick<NotesPdf, 'title' | 'pages'>;

/** What is written on the boards of lessons, for other programs and for students to keep. */
export class Notes {
  readonly #media: MediaStore;
  readonly #pages: PagePictures;
  readonly #fontFile: string | null;
  readonly #inTurn = pLimit(AT_ONCE);
  readonly #pdfs = new LRUCache<string, Buffer>({
    maxSize: HELD_BYTES,
    sizeCalculation: ({ length }) => Math.max(1, length),
  });
  readonly #known = new LRUCache<string, Promise<NotesOfFilm>>({ max: REMEMBERED });

  constructor(media: MediaStore, pages: PagePictures, fontFile: string | null) {
    this.#media = media;
    this.#pages = pages;
    this.#fontFile = fontFile;
  }

  /** The pages that the film of a lesson shows, as they are left. */
  async of(lesson: Lesson): Promise<NotesOfFilm> {
    const film = filmOf(lesson);
    const pages = notesOf(film, await inkOfFilm(film, this.#media));
    return { title: lesson.decisions.plan.title, pages };
  }

  /** The pages of a film that was made, found once: students ask for them. */
  ofFilm(filmId: string, lessonOf: () => Promise<Lesson>): Promise<NotesOfFilm> {
    let found = this.#known.get(filmId);
    if (!found) {
      found = lessonOf().then((lesson) => this.of(lesson));
      // What failed is tried again by whoever asks next.
      found.catch(() => this.#known.delete(filmId));
      this.#known.set(filmId, found);
    }
    return found;
  }

  /**
   * Pages as PDF.
   *
   * @param key names these pages, whose they are and where their links lead, for those who ask for the same again; null: nobody does
   * @param linkTo the address at which the film plays from a time; null where it isn't handed out
   * @throws AppError `not-found` where nothing was written
   */
  pdf(
    { title, pages }: NotesOfFilm,
    author: string,
    linkTo: ((filmUs: Us) => string) | null,
    key: string | null = null,
  ): Promise<Buffer> {
    if (pages.length === 0) throw new AppError('not-found', 'nothing was written');
    const fontFile = this.#fontFile;
    return this.#inTurn(async () => {
      const held = key === null ? undefined : this.#pdfs.get(key);
      if (held) return held;
      const pictures = new Map<NotesPage, string>();
      for (const page of pages) {
        if (page.page.of)
          pictures.set(page, await this.#pages.file(page.page.of, PICTURE_PX, 'png'));
      }
      const pdf = await notesPdf({ title, author, pages, pictures, linkTo, fontFile });
      if (key !== null) this.#pdfs.set(key, pdf);
      return pdf;
    });
  }

  /** One of these pages as SVG. @param number from 1 @throws AppError `not-found` */
  async svg(lesson: Lesson, number: number): Promise<string> {
    const { title, pages } = await this.of(lesson);
    const page = pages[number - 1];
    if (!page) throw new AppError('not-found', `page ${number}`);
    const { of } = page.page;
    const picture = of
      ? await readFile(await this.#pages.file(of, PICTURE_PX, 'png'), 'base64')
      : null;
    const address = picture && `data:image/png;base64,${picture}`;
    return svgOf(page.page, `${title} · page ${number}`, address);
  }

  /** What is written on a take, as the lesson has it, as InkML. @throws AppError `not-found` */
  async inkml(lesson: Lesson, takeId: string): Promise<string> {
    const take = takeOf(lesson, takeId);
    const film = filmOf(lesson);
    const inkOf = await inkOfFilm(film, this.#media);
    const track = take && inkOf(takeId);
    if (!track) throw new AppError('not-found', 'nothing was written');
    return inkmlOf(track);
  }
}
