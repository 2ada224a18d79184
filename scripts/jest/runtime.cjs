/**
 * Jest's module loader, except that Node loads packages: once per worker instead of once per test file, and without
 * compiling them. Packages can't be mocked.
 */
const { default: Runtime } = require('jest-runtime');
const { createRequire } = require('module');

/** Relative paths, our own packages and Jest's. */
const LOADED_BY_JEST = /^(\.|\/|@under-chalk\/|@jest\/)/;

module.exports = class PackagesByNode extends Runtime {
  requireModuleOrMock(from, name) {
    return LOADED_BY_JEST.test(name)
      ? super.requireModuleOrMock(from, name)
      : createRequire(from)(name);
  }
};
