import './prepare.mjs';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';

/** Builds the application and serves it with the example scenes. */

const next = ['node_modules/next/dist/bin/next'];
/** Says which process serves the build of this folder. */
const LOCK = '.next/serving.json';

const stop = (text) => {
  console.error(text);
  process.exit(1);
};

const isFree = (port) =>
  new Promise((done) => {
    const trial = createServer();
    trial.once('error', () => done(false));
    trial.listen(port, () => trial.close(() => done(true)));
  });

/** The port that was asked for, or the first free one from 3000 on. */
async function choosePort() {
  const asked = process.env.PORT;
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      stop(`PORT is “${asked}”, and a port is a whole number from 1 to 65535. Set another one.`);
    if (!(await isFree(port))) stop(`Port ${port} is taken. Set PORT to another one, or leave it out.`);
    return port;
  }
  for (let port = 3000; port < 3100; port++) if (await isFree(port)) return port;
  return stop('No port from 3000 to 3099 is free. Set PORT to one that is.');
}

/** Whether another start in this folder is serving its build right now: building anew would pull it away. */
function servedAlready() {
  try {
    process.kill(JSON.parse(readFileSync(LOCK, 'utf8')).pid, 0);
    return existsSync('.next/BUILD_ID');
  } catch {
    return false;
  }
}

const port = await choosePort();
const shared = servedAlready();
if (shared)
  console.log(
    'This folder is being served already. The same build is served again; stop both to build anew.',
  );
else {
  const built = spawnSync(process.execPath, [...next, 'build'], {
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  if (built.status !== 0) process.exit(built.status ?? 1);
  writeFileSync(LOCK, JSON.stringify({ pid: process.pid }));
}
const server = spawn(process.execPath, [...next, 'start', '-p', String(port)], {
  stdio: ['inherit', 'pipe', 'inherit'],
});
let said = false;
server.stdout.on('data', (chunk) => {
  process.stdout.write(chunk);
  if (!said && String(chunk).includes('Ready')) {
    said = true;
    console.log(`\nClothesline is at http://localhost:${port}\n`);
  }
});
server.on('exit', (code) => {
  if (!shared) rmSync(LOCK, { force: true });
  process.exit(code ?? 1);
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
