/**
 * A Babel plugin for the tests: what is built into the language is looked up once a file.
 *
 * Jest runs each file in a context of its own (`vm`), in which every mention of a global goes through an interceptor:
 * `Math.abs` takes six times as long as outside, and what counts samples or pixels is nothing but that. Only what no
 * test replaces is taken, and nothing that Babel itself puts at a file's beginning (`Object`, `WeakMap`); clocks, timers
 * and `fetch` are left as they are.
 */
const BUILT_IN = [
  ...['Math', 'Number', 'Array', 'String', 'BigInt', 'JSON', 'Map', 'Set', 'Buffer'],
  ...['Int8Array', 'Uint8Array', 'Uint8ClampedArray', 'Int16Array', 'Uint16Array', 'Int32Array'],
  ...['Uint32Array', 'Float32Array', 'Float64Array', 'BigInt64Array', 'BigUint64Array'],
  ...['ArrayBuffer', 'SharedArrayBuffer', 'DataView', 'Atomics'],
];

module.exports = ({ types: t }) => ({
  name: 'globals-once',
  visitor: {
    Program: {
      exit(path) {
        path.scope.crawl();
        const used = BUILT_IN.filter((name) => Object.hasOwn(path.scope.globals, name));
        if (used.length === 0) return;
        path.unshiftContainer(
          'body',
          t.variableDeclaration(
            'const',
            used.map((name) =>
              t.variableDeclarator(
                t.identifier(name),
                t.memberExpression(t.identifier('globalThis'), t.identifier(name)),
              ),
            ),
          ),
        );
      },
    },
  },
});
