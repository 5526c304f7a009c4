import { evaluateCommand } from './evaluate';

process.exitCode = await evaluateCommand(
  process.argv.slice(2),
  (line) => console.error(line),
  (text) => void process.stdout.write(text),
);
