module.exports = {
  displayName: 'app',
  preset: 'jest-expo/web',
  testMatch: ['<rootDir>/**/*.test.{ts,tsx}'],
  setupFiles: ['<rootDir>/jest/setup.ts'],
  moduleNameMapper: {
    '^lucide-react-native/icons/(.*)$': 'lucide-react-native/dist/cjs/icons/$1.js',
  },
};
