import { fileURLToPath } from 'node:url';

const here = (path) => fileURLToPath(new URL(path, import.meta.url));

/** Unit tests of the plain TypeScript packages; the app has a preset of its own. */
const plain = (name) => ({
  displayName: name,
  rootDir: `./${name}`,
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  transform: {
    '\\.ts$': [
      '@swc/jest',
      { swcrc: false, jsc: { parser: { syntax: 'typescript' }, target: 'es2023' } },
    ],
  },
  testEnvironment: here('scripts/jest/environment.cjs'),
  runtime: here('scripts/jest/runtime.cjs'),
});

export default {
  cacheDirectory: here('.build/cache/jest'),
  testSequencer: here('scripts/jest/longest-first.cjs'),
  projects: [plain('core'), plain('paint'), plain('render'), plain('server'), './app'],
};
