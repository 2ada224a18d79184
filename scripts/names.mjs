#!/usr/bin/env node
/**
 * `npm run names`: whether features can be found by their trade names. For each feature and layer it lists the source files whose path or
 * declared names contain the trade name: what they export, and the methods, fields and endpoints in them. A layer in which a
 * feature has nothing to do is `–`.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './lib/say.mjs';

const LAYERS = ['core', 'server', 'app'];

/** Trade names, and the layers that have a part in the feature. */
const FEATURES = [
  { name: 'noise reduction', layers: ['core', 'server', 'app'] },
  { name: 'eraser', layers: ['core', 'app'] },
  { name: 'submission', layers: ['core', 'server', 'app'] },
  { name: 'storage', layers: ['core', 'server', 'app'] },
  { name: 'revoke', layers: ['core', 'server', 'app'] },
  { name: 'transcript search', layers: ['core', 'server', 'app'] },
  { name: 'burnt in', layers: ['core', 'app'] },
  { name: 'watermark', layers: ['core', 'app'] },
  { name: 'launch', layers: ['core', 'server'] },
  { name: 'playlist', layers: ['core', 'server', 'app'] },
  { name: 'reminder', layers: ['core', 'server', 'app'] },
  { name: 'inset', layers: ['core', 'app'] },
  { name: 'undo', layers: ['core', 'app'] },
  { name: 'chapter', layers: ['core', 'app'] },
  { name: 'open timeline', layers: ['core', 'server'] },
];

/** `noise reduction` as it is written in paths and identifiers. */
const formsOf = (name) => {
  const words = name.split(' ');
  const camel = words.map((word, at) => (at === 0 ? word : word[0].toUpperCase() + word.slice(1)));
  return [
    words.join('-'),
    camel.join(''),
    camel.map((w) => w[0].toUpperCase() + w.slice(1)).join(''),
  ];
};

const files = execFileSync('git', ['ls-files', ...LAYERS], { cwd: root, encoding: 'utf8' })
  .split('\n')
  .filter((path) => /\.tsx?$/.test(path) && !/\.test\./.test(path));
const declared = new Map(
  files.map((path) => {
    const text = readFileSync(join(root, path), 'utf8');
    const names = [
      ...text.matchAll(/^export (?:abstract )?(?:const|class|interface|type|function) (\w+)/gm),
      ...text.matchAll(/\bon\('(\w+)'/g),
      ...text.matchAll(/^ {2,4}(?:readonly |async |get )?(\w+)(?:\(.*\{$|\??: )/gm),
    ];
    return [path, names.map(([, name]) => name)];
  }),
);
const isFound = (path, forms) =>
  forms.some(
    (form) => path.includes(form) || declared.get(path).some((name) => name.includes(form)),
  );

let empty = 0;
for (const { name, layers } of FEATURES) {
  console.log(`\n${name}`);
  for (const layer of LAYERS) {
    const found = files.filter(
      (path) => path.startsWith(`${layer}/`) && isFound(path, formsOf(name)),
    );
    if (layers.includes(layer) && found.length === 0) empty++;
    const list =
      found.length > 0 ? found.slice(0, 5).join(', ') : layers.includes(layer) ? 'nothing' : '–';
    console.log(
      `  ${layer.padEnd(7)}${list}${found.length > 5 ? ` and ${found.length - 5} more` : ''}`,
    );
  }
}
console.log(
  `\n${empty} of ${FEATURES.flatMap(({ layers }) => layers).length} places have nothing by that name.`,
);
process.exitCode = empty > 0 ? 1 : 0;
