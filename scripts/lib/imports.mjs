import { build } from 'esbuild';
import { existsSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import { root } from './say.mjs';

const PACKAGES = ['app', 'bench', 'core', 'demo', 'e2e', 'paint', 'practice', 'render', 'server'];
const NOT_OURS = new Set(['node_modules', 'dist', 'results', 'test-results', 'assets', 'media']);

const ASSET = /\.(ttf|png|css|svg|jpg|mjs|cjs|json)$/;

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (NOT_OURS.has(entry.name) || entry.name.startsWith('.')) return [];
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesIn(path);
    return /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts') ? [path] : [];
  });

/**
 * Which of our files imports which, as the bundler sees it: types are no imports.
 *
 * @returns by path from the project's folder: the paths of our own files that it imports, assets too
 */
export const importsOf = async () => {
  const files = PACKAGES.flatMap((name) => filesIn(join(root, name)));
  const { metafile } = await build({
    stdin: {
      contents: files.map((file) => `import ${JSON.stringify(file)};`).join('\n'),
      resolveDir: root,
    },
    absWorkingDir: root,
    bundle: true,
    write: false,
    metafile: true,
    treeShaking: false,
    format: 'esm',
    platform: 'node',
    jsx: 'automatic',
    resolveExtensions: ['.web.tsx', '.web.ts', '.tsx', '.ts', '.js'],
    logLevel: 'error',
    plugins: [
      {
        name: 'ours-only',
        setup(bundler) {
          bundler.onResolve({ filter: /^[^./]/ }, ({ path }) =>
            path.startsWith('@under-chalk/') ? null : { path, external: true },
          );
          bundler.onResolve({ filter: ASSET }, ({ path, resolveDir }) => ({
            path: join(resolveDir, path),
            external: true,
          }));
        },
      },
    ],
  });
  return new Map(
    Object.entries(metafile.inputs).map(([file, { imports }]) => [
      relative(root, join(root, file)),
      imports.flatMap(({ external, path }) => {
        if (!external) return [path];
        return ASSET.test(path) && existsSync(path) ? [relative(root, path)] : [];
      }),
    ]),
  );
};

/**
 * Files that import one another in a cycle: the strongly connected parts of more than one (R. E. Tarjan, “Depth-first search and linear
 * graph algorithms”, 1972), and files that import themselves.
 */
export const cyclesIn = (graph) => {
  const cycles = [];
  const seen = new Map();
  const stack = [];
  const on = new Set();
  const visit = (start) => {
    // By hand, for the deepest way through our files is deeper than a stack likes.
    const calls = [{ node: start, next: 0 }];
    seen.set(start, { index: seen.size, low: seen.size });
    stack.push(start);
    on.add(start);
    while (calls.length > 0) {
      const call = calls.at(-1);
      const own = seen.get(call.node);
      const to = (graph.get(call.node) ?? [])[call.next++];
      if (to === undefined) {
        calls.pop();
        const above = calls.at(-1);
        if (above) {
          const upper = seen.get(above.node);
          upper.low = Math.min(upper.low, own.low);
        }
        if (own.low === own.index) {
          const part = stack.splice(stack.indexOf(call.node));
          part.forEach((one) => on.delete(one));
          if (part.length > 1 || (graph.get(call.node) ?? []).includes(call.node))
            cycles.push(part.sort());
        }
      } else if (!seen.has(to)) {
        const index = seen.size;
        seen.set(to, { index, low: index });
        stack.push(to);
        on.add(to);
        calls.push({ node: to, next: 0 });
      } else if (on.has(to)) {
        own.low = Math.min(own.low, seen.get(to).index);
      }
    }
  };
  for (const node of graph.keys()) if (!seen.has(node)) visit(node);
  return cycles;
};
