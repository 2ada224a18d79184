import { fileURLToPath } from 'node:url';

/** Unit tests of the plain TypeScript packages; the app has a preset of its own. */
const plain = (name) => ({
  displayName: name,
  rootDir: `./${name}`,
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  transform: {
    '\\.m?[jt]s$': [
      'babel-jest',
      {
        configFile: false,
        presets: [
          ['@babel/preset-env', { targets: { node: 'current' } }],
          '@babel/preset-typescript',
        ],
        plugins: [fileURLToPath(new URL('scripts/lib/globals-once.cjs', import.meta.url))],
      },
    ],
  },
  // Packages that ship as ES modules only.
  transformIgnorePatterns: [
    'node_modules/(?!(@tus|srvx|cookie-es|zod-openapi|koa-body|@koa/router|koa|fractional-indexing|p-limit|yocto-queue|csv-parse|csv-stringify|jose)/)',
  ],
  testEnvironment: 'node',
});

export default {
  projects: [plain('core'), plain('paint'), plain('render'), plain('server'), './app'],
};
