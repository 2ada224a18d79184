import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';

const ROOT = join(__dirname, '..', '..', '..');

/** A program that has been built from its sources: it is run by plain Node. */
export interface Built {
  readonly script: string;
  remove(): Promise<void>;
}

const built = (maker: 'reader' | 'threads' | 'coursePlayer', file: string): Built => {
  // Beside the server’s own packages, so that it finds them in the versions that the server has.
  const folder = mkdtempSync(join(ROOT, 'server', 'node_modules', '.built-'));
  const build = join(ROOT, 'scripts', 'lib', 'build.mjs');
  const code = `await (await import(process.argv[1]))[process.argv[3]](process.argv[2])`;
  execFileSync(process.execPath, ['--input-type=module', '-e', code, build, folder, maker]);
  return {
    script: join(folder, file),
    remove: () => rm(folder, { recursive: true, force: true }),
  };
};

/** The process that opens materials. For tests. */
export const buildReader = (): Built => built('reader', 'reader-process.mjs');

/** A thread beside the server, by its file. For tests. */
export const buildThreads = (file: string): Built => built('threads', file);

/** The program of a film’s page in a course site. For tests. */
export const buildCoursePlayer = (): Built => built('coursePlayer', 'course-player.js');
