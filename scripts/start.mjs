import './prepare.mjs';
import { spawn, spawnSync } from 'node:child_process';

/** Builds the application and serves it with the example scenes. */
const port = process.env.PORT ?? '3000';
const next = ['node_modules/next/dist/bin/next'];
const built = spawnSync(process.execPath, [...next, 'build'], {
  stdio: 'inherit',
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
});
if (built.status !== 0) process.exit(built.status ?? 1);
const server = spawn(process.execPath, [...next, 'start', '-p', port], {
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
server.on('exit', (code) => process.exit(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
