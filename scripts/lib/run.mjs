import { spawn } from 'node:child_process';
import { ROOT } from './paths.mjs';

const running = new Set();

/** Ends every command that is still running: what Ctrl-C half-way does. */
export function endCommands() {
  for (const child of running) child.kill('SIGTERM');
}

/**
 * Runs a command to its end. Resolves with its output; rejects with the end of it when it fails.
 * `show: true` lets it write to the screen itself.
 */
export function run(command, args, { cwd = ROOT, env = process.env, show = false, input } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd,
      env,
      stdio: [input === undefined ? 'ignore' : 'pipe', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
    });
    running.add(child);
    let output = '';
    child.stdout?.on('data', (chunk) => (output += chunk));
    child.stderr?.on('data', (chunk) => (output += chunk));
    if (input !== undefined) child.stdin.end(input);
    child.on('error', (error) => (running.delete(child), reject(error)));
    child.on('close', (code, signal) => {
      running.delete(child);
      if (code === 0) resolve(output);
      else
        reject(
          Object.assign(new Error(`${command} ${args.join(' ')} ended with ${signal ?? code}\n${output.slice(-3000)}`), { code, output }),
        );
    });
  });
}

export const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
