import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';

/** Everything that must hold, in order; the last line sums the tests up. */

const bin = (name) => `node_modules/.bin/${name}`;
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', CI: '1' };
mkdirSync('test-results', { recursive: true });
let passed = 0;
let failed = 0;

function step(name, command, args) {
  console.log(`\n== ${name}`);
  const started = Date.now();
  const ok = spawnSync(command, args, { stdio: 'inherit', env }).status === 0;
  console.log(`-- ${name}: ${ok ? 'ok' : 'FAILED'} (${((Date.now() - started) / 1000).toFixed(0)} s)`);
  return ok;
}

/** A check without a count of its own is one test. */
const check = (name, command, args) => (step(name, command, args) ? passed++ : failed++);

function counted(name, command, args, report, read) {
  rmSync(report, { force: true });
  const ok = step(name, command, args);
  try {
    const counts = read(JSON.parse(readFileSync(report, 'utf8')));
    passed += counts.passed;
    failed += counts.failed || (ok ? 0 : 1);
  } catch {
    failed++;
  }
}

if (!step('Install', process.execPath, ['scripts/prepare.mjs', '--browser'])) {
  console.log('tests: 0 passed, 1 failed');
  process.exit(1);
}
check('Types', process.execPath, ['node_modules/next/dist/bin/next', 'typegen']);
check('Types', bin('tsc'), ['--noEmit']);
check('Lint', bin('eslint'), ['.', '--max-warnings', '0']);
check('Dependency rules', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']);
counted(
  'Unit tests',
  bin('jest'),
  ['--json', '--outputFile', 'test-results/unit.json'],
  'test-results/unit.json',
  (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
  }),
);
check('Build', process.execPath, ['node_modules/next/dist/bin/next', 'build']);
counted('Browser tests', bin('playwright'), ['test'], 'test-results/browser.json', (r) => ({
  passed: r.stats.expected + r.stats.flaky,
  failed: r.stats.unexpected,
}));

console.log(`tests: ${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
