import { readFile, writeFile } from 'node:fs/promises';
import * as z from 'zod';
import {
  columnSchema,
  handedInSchema,
  itemSchema,
  newsSchema,
  scoreSchema,
  toolSchema,
} from './course';

const keptSchema = z.object({
  items: z.array(itemSchema).default([]),
  columns: z.array(columnSchema).default([]),
  scores: z.array(scoreSchema).default([]),
  handedIn: z.array(handedInSchema).default([]),
  /** Newest first. */
  news: z.array(newsSchema).default([]),
  /** A tool that has joined by itself; null: the one that was typed in. */
  tool: toolSchema.nullable().default(null),
});
export type KeptCourse = z.infer<typeof keptSchema>;

/** What is in the course, in a file where one is given. */
export class Kept {
  readonly #path: string | undefined;
  #now: KeptCourse;

  private constructor(path: string | undefined, now: KeptCourse) {
    this.#path = path;
    this.#now = now;
  }

  /** @param path a file; undefined: it is forgotten at the stop */
  static async open(path: string | undefined): Promise<Kept> {
    const text = path ? await readFile(path, 'utf8').catch(() => '{}') : '{}';
    return new Kept(path, keptSchema.catch(keptSchema.parse({})).parse(JSON.parse(text)));
  }

  get now(): KeptCourse {
    return this.#now;
  }

  async change(changed: Partial<KeptCourse>): Promise<void> {
    this.#now = { ...this.#now, ...changed };
    if (this.#path) await writeFile(this.#path, JSON.stringify(this.#now));
  }
}
