import { createHash, randomUUID } from 'node:crypto';
import { access, mkdir, readdir, rename, rm, stat, utimes, open } from 'node:fs/promises';
import { join } from 'node:path';

const HOUR_MS = 3_600_000;
const DRAFT_MS = 6 * HOUR_MS;
/** What nobody has used for this long goes: it may show what was thrown away. */
const UNUSED_MS = 30 * 24 * HOUR_MS;

/** Finished pieces on disk, each named by what it shows. One that is there is whole. */
export class PieceCache {
  readonly #folder: string;
  readonly #making = new Map<string, Promise<void>>();

  constructor(folder: string) {
    this.#folder = folder;
  }

  /** Where the piece of a key is, or will be. The key may be any text. */
  pathOf(keyText: string, extension: string): string {
    const key = createHash('sha256').update(keyText).digest('hex').slice(0, 40);
    return join(this.#folder, `${key}.${extension}`);
  }

  async has(path: string): Promise<boolean> {
    try {
      await access(path);
      // Freshened, so that `prune` keeps what is in use.
      const now = new Date();
      await utimes(path, now, now);
      return true;
    } catch {
      return false;
    }
  }

  /**
   * Lets `make` write a file and puts it in its place once it is whole and on the disk: a crash
   * leaves either nothing or all of it.
   */
  async make(path: string, make: (draft: string) => Promise<void>): Promise<void> {
    await mkdir(this.#folder, { recursive: true });
    const draft = join(this.#folder, `draft-${randomUUID()}.tmp`);
    try {
      await make(draft);
      const file = await open(draft, 'r');
      await file.sync();
      await file.close();
      await rename(draft, path);
    } finally {
      await rm(draft, { force: true });
    }
  }

  /**
   * The piece at a path: the one there is, or one that is made now. Asked for several times while it is
   * being made, it is made once.
   */
  async obtain(path: string, make: (draft: string) => Promise<void>): Promise<string> {
    let making = this.#making.get(path);
    if (!making) {
      making = this.has(path)
        .then((present) => (present ? undefined : this.make(path, make)))
        .finally(() => this.#making.delete(path));
      this.#making.set(path, making);
    }
    await making;
    return path;
  }

  /**
   * Removes the least recently used pieces until at most `mostBytes` are left, those that nobody has used for
   * {@link UNUSED_MS}, and drafts of crashed runs. `now` in ms since 1970.
   */
  async prune(mostBytes: number, now = Date.now()): Promise<void> {
    await mkdir(this.#folder, { recursive: true });
    const names = await readdir(this.#folder);
    const files = await Promise.all(
      names.map(async (name) => {
        const path = join(this.#folder, name);
        // Another may have taken it away, or put it in its place, in between.
        const facts = await stat(path).catch(() => ({ size: 0, mtimeMs: now }));
        return { path, size: facts.size, mtimeMs: facts.mtimeMs, draft: name.startsWith('draft-') };
      }),
    );
    let bytes = 0;
    for (const file of files.sort((a, b) => b.mtimeMs - a.mtimeMs)) {
      const unusedMs = now - file.mtimeMs;
      if (!file.draft) bytes += file.size;
      if (file.draft ? unusedMs > DRAFT_MS : unusedMs > UNUSED_MS || bytes > mostBytes) {
        await rm(file.path, { force: true });
      }
    }
  }
}
