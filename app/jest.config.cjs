const [translated, ...others] = require('jest-expo/web/jest-preset').transformIgnorePatterns;

module.exports = {
  displayName: 'app',
  preset: 'jest-expo/web',
  testMatch: ['<rootDir>/**/*.test.{ts,tsx}'],
  // Packages that ship as ES modules only.
  transformIgnorePatterns: [
    translated.replace(
      '(?!(',
      '(?!(fractional-indexing|csv-parse|csv-stringify|react-intl|@formatjs|intl-messageformat|',
    ),
    ...others,
  ],
  setupFiles: ['<rootDir>/jest/setup.ts'],
  moduleNameMapper: {
    '^lucide-react-native/icons/(.*)$':
      '<rootDir>/../node_modules/lucide-react-native/dist/cjs/icons/$1.js',
  },
};
