import { spawn } from 'node:child_process';

interface Ended {
  /** Exit code; 1 for a program that was killed or could not be started. */
  status: number;
  output: string;
}

/** Output kept of a program, in characters. */
const KEPT = 200_000;

/** Runs a program to its end and captures its output; it can be killed by the signal. Never throws. */
export function run(
  command: string,
  args: readonly string[],
  { cwd, env, stop }: { cwd?: string; env?: NodeJS.ProcessEnv; stop?: AbortSignal | undefined } = {},
): Promise<Ended> {
  return new Promise((ended) => {
    const program = spawn(command, args, {
      cwd,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
      // A group of its own: Ctrl-C is for `up` to act on.
      detached: true,
    });
    let output = '';
    const keep = (chunk: Buffer) => {
      output = (output + chunk.toString()).slice(-KEPT);
    };
    program.stdout.on('data', keep);
    program.stderr.on('data', keep);
    const kill = () => {
      try {
        if (program.pid) process.kill(-program.pid, 'SIGKILL');
      } catch {
        // It has ended by itself.
      }
    };
    stop?.addEventListener('abort', kill);
    if (stop?.aborted) kill();
    const done = (status: number | null) => {
      stop?.removeEventListener('abort', kill);
      // A daemon that the program has left behind may hold its output open: what ends is the program.
      program.stdout.destroy();
      program.stderr.destroy();
      ended({ status: status ?? 1, output: output.trim() });
    };
    program.once('error', (error) => {
      output += error.message;
      done(1);
    });
    program.once('exit', (status) => setImmediate(done, status));
  });
}
