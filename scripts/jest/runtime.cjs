/**
 * Jest's module loader, with packages left to Node: each is loaded once for a worker and not once for a test file, and
 * none has to be compiled. Only for projects that mock no package.
 */
const { default: Runtime } = require('jest-runtime');
const { createRequire } = require('module');

/** Our own sources and what Jest itself provides; everything else that is no path is a package. */
const LOADED_BY_JEST = /^(\.|\/|@under-chalk\/|@jest\/)/;

module.exports = class PackagesByNode extends Runtime {
  requireModuleOrMock(from, name) {
    return LOADED_BY_JEST.test(name)
      ? super.requireModuleOrMock(from, name)
      : createRequire(from)(name);
  }
};
