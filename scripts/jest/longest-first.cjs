/** Runs the suites with the longest recorded duration first, so that both workers finish at about the same time. */
const { default: Sequencer } = require('@jest/test-sequencer');
const { existsSync, readFileSync } = require('node:fs');
const { join, relative } = require('node:path');

const root = process.cwd();
const record = join(root, 'bench', 'results', 'tests.json');
const seconds = existsSync(record) ? JSON.parse(readFileSync(record, 'utf8')).specs : {};
const secondsOf = ({ path }) => seconds[relative(root, path)] ?? 1;

module.exports = class LongestFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => secondsOf(b) - secondsOf(a) || (a.path < b.path ? -1 : 1));
  }
};
