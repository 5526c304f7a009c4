import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { spawn } from 'node:child_process';

/** Everything that must hold, in order; the last line sums the tests up. */

const bin = (name) => `node_modules/.bin/${name}`;
const next = 'node_modules/next/dist/bin/next';
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', CI: '1' };
mkdirSync('test-results', { recursive: true });

const sum = { passed: 0, failed: 0 };
/** Every test with its seconds, and those that passed only at their second try. */
const times = [];
const second = [];
/** What failed, named once more at the end: its own words are far above by then. */
const failed = [];

const since = (started) => `${((Date.now() - started) / 1000).toFixed(0)} s`;

/** Runs a command; what it prints is shown when it ends, so that commands side by side do not mix. */
function run(name, command, args, live = false) {
  const started = Date.now();
  if (live) console.log(`\n== ${name}`);
  return new Promise((done) => {
    const child = spawn(command, args, { stdio: live ? 'inherit' : ['ignore', 'pipe', 'pipe'], env });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => said.push(chunk));
    child.on('error', (error) => said.push(Buffer.from(String(error))));
    child.on('close', (status) => {
      if (!live) console.log(`\n== ${name}`);
      if (said.length) process.stdout.write(Buffer.concat(said));
      console.log(`-- ${name}: ${status === 0 ? 'ok' : 'FAILED'} (${since(started)})`);
      done(status === 0);
    });
  });
}

/** A check without a count of its own is one test. */
async function check(name, command, args) {
  if (await run(name, command, args)) return sum.passed++;
  failed.push(name);
  return sum.failed++;
}

/** @param read passed, failed, and the tests out of the runner's report */
async function counted(name, command, args, report, read) {
  rmSync(report, { force: true });
  const ok = await run(name, command, args, true);
  try {
    const result = read(JSON.parse(readFileSync(report, 'utf8')));
    sum.passed += result.passed;
    sum.failed += result.failed || (ok ? 0 : 1);
    times.push(...result.tests);
    if (!ok && !result.failed) failed.push(name);
  } catch {
    sum.failed++;
    failed.push(name);
  }
}

function ofJest(report) {
  for (const { name, status, assertionResults } of report.testResults) {
    const broken = assertionResults.filter((t) => t.status === 'failed').map((t) => t.fullName);
    if (status === 'failed') failed.push(...(broken.length ? broken : [name]));
  }
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    tests: report.testResults.flatMap((file) =>
      file.assertionResults.map((t) => ({ title: t.fullName, seconds: (t.duration ?? 0) / 1000 })),
    ),
  };
}

function ofPlaywright(report) {
  const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)];
  const tests = report.suites.flatMap(specs).flatMap(({ title, file, tests: list }) =>
    list.map(({ status, results }) => {
      if (status === 'flaky') second.push(`${file}: ${title}`);
      if (status === 'unexpected') failed.push(`${file}: ${title}`);
      return { title: `${file}: ${title}`, seconds: results.reduce((s, r) => s + r.duration, 0) / 1000 };
    }),
  );
  return { passed: report.stats.expected + report.stats.flaky, failed: report.stats.unexpected, tests };
}

const started = Date.now();
if (!(await run('Install', process.execPath, ['scripts/prepare.mjs', '--browser'], true))) {
  console.log('tests: 0 passed, 1 failed');
  process.exit(1);
}
await check('Routes', process.execPath, [next, 'typegen']);
// Two rows of checks, each of which keeps one core busy; they are about as long as each other.
await Promise.all([
  check('Lint', bin('eslint'), ['.', '--max-warnings', '0']).then(() =>
    check('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']),
  ),
  check('Types', bin('tsc'), ['--noEmit'])
    .then(() => check('Unused code', bin('knip'), []))
    .then(() => check('Dependency rules', bin('depcruise'), ['src', '--config', '.dependency-cruiser.mjs']))
    .then(() => check('Build', process.execPath, [next, 'build'])),
]);
const unit = 'test-results/unit.json';
await counted('Unit tests', bin('jest'), ['--json', '--outputFile', unit], unit, ofJest);
await counted('Browser tests', bin('playwright'), ['test'], 'test-results/browser.json', ofPlaywright);

console.log('\nThe ten slowest tests');
for (const { title, seconds } of times.sort((a, b) => b.seconds - a.seconds).slice(0, 10))
  console.log(`  ${seconds.toFixed(1).padStart(5)} s  ${title}`);
for (const title of second) console.log(`passed only at its second try: ${title}`);
for (const title of failed) console.log(`failed: ${title}`);
console.log(`all of it took ${since(started)}`);
console.log(`tests: ${sum.passed} passed, ${sum.failed} failed`);
process.exit(sum.failed ? 1 : 0);
