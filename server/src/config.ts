import { join, resolve } from 'node:path';
import * as z from 'zod';

const environmentSchema = z.object({
  PORT: z.coerce.number().int().min(0).max(65_535).default(4750),
  HOST: z.string().default('127.0.0.1'),
  UNDER_CHALK_HOME: z.string().default('./data'),
  /** The address that browsers use when another server stands before this one. */
  UNDER_CHALK_ADDRESS: z.url({ protocol: /^https?$/ }).optional(),
  /** Addresses of the servers that stand before this one, with commas between. */
  UNDER_CHALK_PROXIES: z
    .string()
    .default('')
    .transform((list) => list.split(',').flatMap((one) => one.trim() || []))
    .pipe(z.array(z.union([z.ipv4(), z.ipv6()]))),
  /** Who writes drafts of what is said: a program on this machine, or an address. */
  UNDER_CHALK_LISTENER: z
    .union([z.url({ protocol: /^https?$/ }), z.string().startsWith('/')])
    .optional(),
  UNDER_CHALK_DEMO: z.enum(['0', '1']).default('0'),
  /** Whether pictures of takes are analysed in the background. */
  UNDER_CHALK_READINGS: z.enum(['on', 'off']).default('on'),
  /** Largest file a track may be, bytes. */
  UNDER_CHALK_MOST_BYTES: z.coerce.number().int().positive().default(8_000_000_000),
  /** Room the chunk cache may take, bytes. */
  UNDER_CHALK_CACHE_BYTES: z.coerce.number().int().positive().default(10_000_000_000),
});

export interface Config {
  readonly port: number;
  readonly host: string;
  /** Opens signed in as the demo teacher, and only to this machine. */
  readonly demo: boolean;
  readonly front: Front;
  /** Whether pictures of takes are analysed in the background: what can be read in them, and where the pointer is. */
  readonly readings: boolean;
  readonly mostBytes: number;
  readonly cacheBytes: number;
  /** Writes drafts of what is said: the path of a program, or an address; null: only what ships does. */
  readonly listener: string | null;
  readonly folders: Folders;
  /** SQLite’s `synchronous`: whether a write waits for the disk. `OFF` only in tests. */
  readonly synchronous: Synchronous;
  /** The built app; null: API only. */
  readonly appFolder: string | null;
}

export type Synchronous = 'FULL' | 'OFF';

/** What stands between browsers and this server. */
export interface Front {
  /** The origin that browsers use (RFC 6454); null: whatever they asked for. */
  readonly origin: string | null;
  /** Whether they get here by TLS. */
  readonly secure: boolean;
  /** Whose word is taken for who asks. */
  readonly proxies: readonly string[];
}

/** Nothing: browsers talk to this server itself. */
export const NO_FRONT: Front = { origin: null, secure: false, proxies: [] };

export interface Folders {
  readonly home: string;
  readonly database: string;
  /** Bytes of tracks as they come in, named by track. */
  readonly incoming: string;
  /** Tracks made playable, named by track. */
  readonly media: string;
  readonly films: string;
  readonly chunks: string;
  readonly stills: string;
  /** Files that were brought in as materials, named by their content. */
  readonly materials: string;
  /** Pictures of their pages. */
  readonly pages: string;
  /** Files that students handed in, named by their ids, and those that are still coming. */
  readonly submissions: string;
  readonly submissionsComing: string;
  /** E-mails that came to the test inbox. */
  readonly testInbox: string;
}

/** What the server is built with, beside its program. */
export interface Shipped {
  /** The font of titles and of words on the board; null: one that is there. */
  readonly fontFile: string | null;
  /** The program of the process that opens materials. */
  readonly readerScript: string;
  /** The program of the thread that looks for pointers; empty: none are looked for. */
  readonly pointerScript: string;
  /** The program of the thread that looks through pictures; empty: they aren’t. */
  readonly pictureScript: string;
  /** The program of the thread that takes the room from under voices; empty: it is done in the server’s own. */
  readonly noiseReductionScript: string;
  /** The program of the thread that compares voices; empty: it is done in the server’s own. */
  readonly likenessScript: string;
  /** The program of the thread that makes pieces of a film while it is recorded; empty: it is done in the server’s own. */
  readonly aheadScript: string;
  /** The program of the thread that finds faces; empty: none are found. */
  readonly faceScript: string;
  /** The program of a film’s page in a course site. */
  readonly coursePlayer: string;
  /** Where the schemas are that packages for course sites keep to. */
  readonly scormSchemas: string;
}

/** What is built into one folder with the program. */
export const shippedIn = (folder: string): Shipped => ({
  fontFile: join(folder, 'title-font.ttf'),
  readerScript: join(folder, 'reader', 'reader-process.mjs'),
  pointerScript: join(folder, 'pointer-thread.mjs'),
  pictureScript: join(folder, 'picture-thread.mjs'),
  noiseReductionScript: join(folder, 'noise-reduction-thread.mjs'),
  likenessScript: join(folder, 'likeness-thread.mjs'),
  aheadScript: join(folder, 'ahead-thread.mjs'),
  faceScript: join(folder, 'face-thread.mjs'),
  coursePlayer: join(folder, 'course-player.js'),
  scormSchemas: join(folder, 'scorm-1.2'),
});

export const foldersIn = (home: string): Folders => ({
  home,
  database: join(home, 'under-chalk.sqlite'),
  incoming: join(home, 'incoming'),
  media: join(home, 'media'),
  films: join(home, 'films'),
  chunks: join(home, 'cache', 'chunks'),
  stills: join(home, 'cache', 'stills'),
  materials: join(home, 'materials'),
  pages: join(home, 'cache', 'pages'),
  submissions: join(home, 'submissions'),
  submissionsComing: join(home, 'incoming-submissions'),
  testInbox: join(home, 'test-inbox'),
});

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1']);

/**
 * Reads the configuration from the environment.
 *
 * @throws ZodError when a value is out of its range; Error when a demo would be open to other machines
 */
export const readConfig = (environment: NodeJS.ProcessEnv, appFolder: string | null): Config => {
  const read = environmentSchema.parse(environment);
  const demo = read.UNDER_CHALK_DEMO === '1';
  if (demo && !LOOPBACK.has(read.HOST)) {
    throw new Error(
      `The demo opens signed in, so it only answers this machine; HOST=${read.HOST} needs npm start -- --own.`,
    );
  }
  return {
    port: read.PORT,
    host: read.HOST,
    demo,
    front: read.UNDER_CHALK_ADDRESS
      ? {
          origin: new URL(read.UNDER_CHALK_ADDRESS).origin,
          secure: read.UNDER_CHALK_ADDRESS.startsWith('https:'),
          proxies: read.UNDER_CHALK_PROXIES,
        }
      : { ...NO_FRONT, proxies: read.UNDER_CHALK_PROXIES },
    listener: read.UNDER_CHALK_LISTENER ?? null,
    readings: read.UNDER_CHALK_READINGS === 'on',
    mostBytes: read.UNDER_CHALK_MOST_BYTES,
    cacheBytes: read.UNDER_CHALK_CACHE_BYTES,
    folders: foldersIn(resolve(read.UNDER_CHALK_HOME)),
    synchronous: 'FULL',
    appFolder,
  };
};
