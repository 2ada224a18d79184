import expo from 'eslint-config-expo/flat.js';
import prettier from 'eslint-config-prettier';

/** Which of our packages each folder may import: arrows point one way (docs/architecture.md). */
const MAY_IMPORT = {
  core: [],
  paint: ['core'],
  render: ['core', 'paint'],
  server: ['core', 'paint', 'render'],
  app: ['core', 'paint', 'render'],
  demo: ['core', 'paint'],
  e2e: ['core'],
  bench: ['core', 'paint', 'render', 'server', 'e2e'],
};
const ALL = Object.keys(MAY_IMPORT);

const layers = Object.entries(MAY_IMPORT).map(([folder, may]) => ({
  files: [`${folder}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: ALL.filter((other) => other !== folder && !may.includes(other)).map((other) => ({
          regex: `^@under-chalk/${other}(/|$)|^(\\.\\./)+${other}/`,
          message: `${folder} may not import ${other}: arrows point one way.`,
        })),
      },
    ],
  },
}));

const NAMED_EXPORTS = {
  selector: 'ExportDefaultDeclaration',
  message: 'Named exports are found by their name.',
};
/** Properties of components that are shown or read out. `Controller` names a field of a form. */
const SHOWN =
  'JSXOpeningElement[name.name!="Controller"] > JSXAttribute[name.name=/^(label|spoken|title|text|name|doing|what|hint|placeholder|alt|aria-label)$/]';

export default [
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', '.build/**', 'e2e/test-results/**'] },
  ...expo,
  prettier,
  {
    settings: {
      'import/resolver': {
        typescript: {
          noWarnOnMultipleProjects: true,
          project: [
            'tsconfig.json',
            'e2e/tsconfig.json',
            'app/tsconfig.json',
            'app/workers/tsconfig.json',
          ],
        },
      },
    },
    rules: {
      // A schema and the type it describes share a name.
      '@typescript-eslint/no-redeclare': 'off',
      // `import * as z from 'zod'` is how Zod is meant to be imported.
      'import/namespace': 'off',
      'import/no-named-as-default': 'off',
      eqeqeq: ['error', 'smart'],
      'no-empty': ['error', { allowEmptyCatch: false }],
      'no-restricted-syntax': ['error', NAMED_EXPORTS],
    },
  },
  {
    // Expo Router, Jest, Playwright and the tools want a default export.
    files: ['app/routes/**', '**/*.config.*', '**/declarations.d.ts', 'app/jest/**'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    // The core is pure: no clock, no chance, no device.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['window', 'document', 'navigator', 'process', 'performance', 'setTimeout', 'fetch'],
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now' },
        { object: 'Math', property: 'random' },
      ],
    },
  },
  {
    // Text that is shown stands in the catalogues (app/messages). More folders come here as their text moves.
    files: [
      'app/features/{account,bin,cover,layouts,mail,sign-in,storage,student-page,styles,watch}/**/*.{ts,tsx}',
      'app/messages/**/*.tsx',
    ],
    ignores: ['**/*.test.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'JSXText[value=/[A-Za-z]{2}/]',
          `${SHOWN} > Literal[value=/[A-Za-z]{2}/]`,
          // A word beside a space: ids of messages have none.
          `${SHOWN} TemplateElement[value.raw=/ [A-Za-z]{2}|[A-Za-z]{2} /]`,
          'JSXExpressionContainer > TemplateLiteral > TemplateElement[value.raw=/[A-Za-z]{2}/]',
          'Property[key.name=/^(label|hint|title|text|words)$/] > Literal[value=/[A-Z][a-z]+ [a-z]/]',
        ].map((selector) => ({ selector, message: 'Text goes into app/messages.' })),
        NAMED_EXPORTS,
      ],
    },
  },
  ...layers,
];
