/** Builds what is stale: the app for the web, and the server's programs. */
import { build } from 'esbuild';
import { CATALOGUES, NO_PARSER, PARSER, parsedCatalogue } from './messages.mjs';
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join, relative, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { withLock } from './lock.mjs';
import { must, root, say } from './say.mjs';
import { streamPlayer } from './stream-player.mjs';

const SKIP = new Set(['node_modules', 'dist', '.expo', 'media', 'results']);

/** All source files below some folders. */
const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (SKIP.has(entry.name) || /\.test\.tsx?$/.test(entry.name)) return [];
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesIn(path) : [path];
  });

const fingerprint = (folders) => {
  const hash = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')));
  for (const file of folders.flatMap((folder) => filesIn(join(root, folder))).sort()) {
    hash.update(relative(root, file)).update(readFileSync(file));
  }
  return hash.digest('hex');
};

/** Builds if the sources have changed since the last build. Concurrent callers build it once. */
const unlessFresh = async (stamp, folders, make) => {
  const print = fingerprint(folders);
  const isFresh = () => existsSync(stamp) && readFileSync(stamp, 'utf8') === print;
  if (isFresh()) return;
  const [product] = relative(root, stamp).split(sep);
  await withLock(join(root, '.build', `building-${product}.lock`), async () => {
    if (isFresh()) return;
    await make();
    writeFileSync(stamp, print);
  });
};

/**
 * Most that a student's page may have of script, bytes as they are sent; and of what puts films together from their pieces,
 * which is fetched when the page is there.
 */
const MOST_WATCH_SCRIPT = 200_000;
const MOST_STREAM_SCRIPT = 115_000;
/** The file that has it, as its package names it. */
const STREAM_SCRIPT = /^exports-default-/;

/**
 * The page where students watch: made of the same parts as the app, and of nothing else. The server puts into it
 * what it shows before its script has come.
 */
const watchPage = async () => {
  const dist = join(root, 'app', 'dist');
  const { outputs } = (
    await build({
      entryPoints: {
        watch: join(root, 'app/watch/start.ts'),
        style: join(root, 'app/watch/style.css'),
      },
      splitting: true,
      chunkNames: '[name]-[hash]',
      outdir: join(dist, 'watch'),
      entryNames: '[name]-[hash]',
      assetNames: '[name]-[hash]',
      publicPath: '/watch',
      bundle: true,
      minify: true,
      metafile: true,
      format: 'esm',
      target: ['es2022', 'safari15'],
      jsx: 'automatic',
      alias: { 'react-native': 'react-native-web' },
      resolveExtensions: ['.web.tsx', '.web.ts', '.tsx', '.ts', '.web.js', '.js', '.json'],
      loader: { '.woff2': 'file', '.js': 'jsx' },
      define: { 'process.env.NODE_ENV': '"production"', __DEV__: 'false', global: 'globalThis' },
      plugins: [withoutLocales, parsedMessages, streamPlayer],
      logLevel: 'warning',
    })
  ).metafile;
  const names = Object.keys(outputs).map((path) => path.split('/').pop());
  const [script, style] = [/^watch-.*\.js$/, /^style-.*\.css$/].map((form) =>
    names.find((name) => form.test(name)),
  );
  // The app itself takes its families from there too.
  writeFileSync(join(dist, 'fonts.css'), fontsOf(readFileSync(join(dist, 'watch', style), 'utf8')));
  const sizeOf = (name) => brotliCompressSync(readFileSync(join(dist, 'watch', name))).length;
  const sentOf = (isWanted) =>
    names
      .filter((name) => name.endsWith('.js') && isWanted(name))
      .reduce((sum, name) => sum + sizeOf(name), 0);
  // Of the languages each reader is sent one: the largest is counted.
  const languages = Object.entries(outputs)
    .filter(([, { inputs }]) => Object.keys(inputs).some((path) => CATALOGUES.test(path)))
    .map(([path]) => path.split('/').pop());
  const language = Math.max(...languages.map(sizeOf));
  const isWatch = (name) => !STREAM_SCRIPT.test(name) && !languages.includes(name);
  for (const [most, sent] of [
    [MOST_WATCH_SCRIPT, sentOf(isWatch) + language],
    [MOST_STREAM_SCRIPT, sentOf((name) => STREAM_SCRIPT.test(name))],
  ]) {
    if (sent > most || sent === 0)
      throw new Error(`a script of the watch page has ${sent} bytes, and ${most} at most`);
  }
  // Two hundred bytes; the app's own, for every browser there is, has fifteen thousand.
  const icon = readFileSync(join(root, 'app/assets/favicon.png'), 'base64');
  const page = readFileSync(join(root, 'app/watch/page.html'), 'utf8')
    .replace('<!--icon-->', `<link rel="icon" href="data:image/png;base64,${icon}" />`)
    .replace('<!--style-->', `<link rel="stylesheet" href="/watch/${style}" />`)
    .replace('<!--script-->', `<script type="module" src="/watch/${script}"></script>`);
  writeFileSync(join(dist, 'watch', 'page.html'), page);
};

/** The rules of a style sheet that name families. */
const fontsOf = (style) => (style.match(/@font-face\s*\{[^}]*\}/g) ?? []).join('\n');

/** Messages are parsed here, and their parser stays out. An esbuild plugin. */
const parsedMessages = {
  name: 'parsed-messages',
  setup(bundler) {
    bundler.onLoad({ filter: CATALOGUES }, ({ path }) => ({
      ...{ contents: parsedCatalogue(path), loader: 'json' },
    }));
    bundler.onResolve({ filter: new RegExp(`^${PARSER}$`) }, ({ resolveDir, kind }) =>
      bundler.resolve(NO_PARSER, { resolveDir, kind }),
    );
  },
};

/** Zod's messages in forty languages; ours are our own. */
const withoutLocales = {
  name: 'without-locales',
  setup(bundler) {
    bundler.onLoad({ filter: /zod\/.*locales\/index\.(js|cjs)$/ }, () => ({ contents: '' }));
  },
};

const WATCH = `${sep}watch${sep}`;
/** Leaves compressed copies beside what compresses well, for koa-send to give instead. */
const compress = (folder) => {
  for (const file of readdirSync(folder, { recursive: true })) {
    const path = join(folder, String(file));
    if (!/\.(js|css|html|json|svg|ttf)$/.test(path) || statSync(path).size < 1_000) continue;
    const bytes = readFileSync(path);
    writeFileSync(`${path}.gz`, gzipSync(bytes));
    // The best there is takes ten times as long; the page that students wait for on slow lines is worth it.
    const quality = path.includes(WATCH) ? constants.BROTLI_MAX_QUALITY : 9;
    const params = { [constants.BROTLI_PARAM_QUALITY]: quality };
    writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params }));
  }
};

export const app = () =>
  unlessFresh(join(root, 'app', 'dist', '.stamp'), ['app', 'core', 'paint', 'render'], async () => {
    say('Building the app: about a minute the first time.');
    rmSync(join(root, 'app', 'dist'), { recursive: true, force: true });
    await must(
      join(root, 'node_modules', '.bin', 'expo'),
      ['export', '--platform', 'web', '--output-dir', 'dist'],
      'The app could not be built; what is wrong stands above.',
      {
        cwd: join(root, 'app'),
        env: { ...process.env, EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', CI: '1' },
        stdio: ['ignore', process.env.CI ? 'inherit' : 'ignore', 'inherit'],
      },
    );
    // A worklet is loaded by its address, as one file: the app's bundler knows of none.
    await build({
      entryPoints: {
        'sound-reader': join(root, 'app/workers/sound-reader.worklet.ts'),
        limiter: join(root, 'app/workers/limiter.worklet.ts'),
      },
      outdir: join(root, 'app', 'dist', 'worklets'),
      bundle: true,
      format: 'iife',
      target: 'es2022',
      logLevel: 'warning',
    });
    await watchPage();
    compress(join(root, 'app', 'dist'));
  });

const NODE = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  // Our own packages go into the lesson archive as sources; everything else stays a package.
  plugins: [
    {
      name: 'packages-outside',
      setup(bundler) {
        bundler.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
          kind === 'entry-point' || path.startsWith('@under-chalk/')
            ? null
            : { path, external: true },
        );
      },
    },
  ],
};

/** The process that opens materials: what opens each kind is a file of its own, loaded when there is one. */
const reader = (outdir) =>
  build({
    ...NODE,
    splitting: true,
    entryPoints: [join(root, 'server/src/jobs/materials/reader-process.ts')],
    outdir,
    outExtension: { '.js': '.mjs' },
  });

/** The program of a film's page in a course site: one file, for whatever browser a school has. */
const coursePlayer = (outdir) =>
  build({
    entryPoints: { 'course-player': join(root, 'app/course-page/player.ts') },
    outdir,
    bundle: true,
    minify: true,
    format: 'iife',
    target: ['es2020', 'safari15'],
    logLevel: 'warning',
  });

/** Threads beside the server: one looks for pointers, one looks through pictures, one takes the room from under voices, one compares them, one makes pieces of films while they are recorded, one finds faces. */
const threads = (outdir) =>
  build({
    ...NODE,
    entryPoints: {
      'pointer-thread': join(root, 'server/src/jobs/readings/pointer-thread.ts'),
      'picture-thread': join(root, 'server/src/jobs/readings/picture-thread.ts'),
      'noise-reduction-thread': join(
        root,
        'server/src/jobs/noise-reduction/noise-reduction-thread.ts',
      ),
      'ahead-thread': join(root, 'server/src/jobs/ahead/ahead-thread.ts'),
      'face-thread': join(root, 'server/src/jobs/faces/face-thread.ts'),
      'likeness-thread': join(root, 'server/src/words/likeness-thread.ts'),
    },
    outdir,
    outExtension: { '.js': '.mjs' },
  });

/** What the built server is made of; its fingerprint covers these folders. */
export const SERVER_SOURCES = [
  'server',
  'core',
  'paint',
  'render',
  'demo',
  'bench',
  'practice',
  'app/course-page',
];

export const server = () =>
  unlessFresh(join(root, 'server', 'dist', '.stamp'), SERVER_SOURCES, async () => {
    say('Building the server.');
    const dist = join(root, 'server', 'dist');
    mkdirSync(dist, { recursive: true });
    await build({
      ...NODE,
      entryPoints: {
        main: join(root, 'server/src/main.ts'),
        'practice-listener': join(root, 'server/src/bin/practice-listener.ts'),
        'film-thread': join(root, 'server/src/jobs/film-thread.ts'),
        film: join(root, 'server/src/bin/film.ts'),
        passphrase: join(root, 'server/src/bin/passphrase.ts'),
        seed: join(root, 'demo/src/seed.ts'),
        'practice-site': join(root, 'practice/src/main.ts'),
        'practice-furnish': join(root, 'practice/src/furnish.ts'),
      },
      outdir: dist,
    });
    await reader(join(dist, 'reader'));
    await threads(dist);
    await coursePlayer(dist);
    cpSync(join(root, 'server/assets/scorm-1.2'), join(dist, 'scorm-1.2'), { recursive: true });
    copyFileSync(
      join(root, 'node_modules/@expo-google-fonts/bitter/600SemiBold/Bitter_600SemiBold.ttf'),
      join(dist, 'title-font.ttf'),
    );
  });

// `node scripts/lib/build.mjs app server` builds what is named.
const PRODUCTS = { app, server };
if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const name of process.argv.slice(2)) await PRODUCTS[name]();
}

/** Lesson archives one script of ours and gives where it is, to be run with plain Node: where packages are found in the versions that the server has. */
export const script = async (source) => {
  const out = join(
    root,
    'server/dist/scripts',
    source.replace(/[/\\]/g, '-').replace(/\.ts$/, '.mjs'),
  );
  await build({ ...NODE, entryPoints: [join(root, source)], outfile: out });
  return out;
};
