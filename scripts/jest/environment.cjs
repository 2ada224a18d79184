/**
 * A test environment without a `vm` context: tests run in the worker's own realm.
 *
 * In a context, every access to a global goes through an interceptor (`Math.abs` takes six times as long), `instanceof`
 * fails for classes of Node's own modules, and packages can't be shared between test files. Our own modules are still
 * loaded for each file; see `runtime.cjs` for packages.
 */
const { LegacyFakeTimers, ModernFakeTimers } = require('@jest/fake-timers');
const { ModuleMocker } = require('jest-mock');
const { mkdtemp, rm } = require('node:fs/promises');
const { tmpdir } = require('node:os');
const { join } = require('node:path');
const { Script } = require('node:vm');

const REALM = Object.freeze({});
const { runInContext } = Script.prototype;
Script.prototype.runInContext = function run(context, options) {
  return context === REALM
    ? this.runInThisContext(options)
    : runInContext.call(this, context, options);
};

const timerConfig = { idToRef: (id) => id, refToId: (timer) => timer };
// Jest or a test may replace these: restored after each file.
const { console } = globalThis;
const { exit } = process;
const env = { ...process.env };

module.exports = class WorkerRealm {
  constructor({ projectConfig: config }) {
    this.global = globalThis;
    Error.stackTraceLimit = 100;
    this.moduleMocker = new ModuleMocker(globalThis);
    const { global, moduleMocker } = this;
    this.fakeTimers = new LegacyFakeTimers({ config, global, moduleMocker, timerConfig });
    this.fakeTimersModern = new ModernFakeTimers({ config, global });
  }

  /** Each file gets its own folder for temporary files. */
  async setup() {
    this.folder = await mkdtemp(join(tmpdir(), 'under-chalk-jest-'));
    process.env.TMPDIR = this.folder;
  }

  async teardown() {
    this.fakeTimers.dispose();
    this.fakeTimersModern.dispose();
    globalThis.console = console;
    process.exit = exit;
    for (const name of Object.keys(process.env)) if (!(name in env)) delete process.env[name];
    Object.assign(process.env, env);
    await rm(this.folder, { recursive: true, force: true });
  }

  exportConditions() {
    return ['node', 'node-addons'];
  }

  getVmContext() {
    return REALM;
  }
};
