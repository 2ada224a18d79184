import { limited, watchWork, type Limits } from '@under-chalk/render';
import { spawn, spawnSync } from 'node:child_process';

/** Whether a program can be started here. */
export const isHere = (program: string): boolean =>
  spawnSync(program, ['--version'], { stdio: 'ignore', timeout: 5_000 }).error === undefined;

/** A program ended with an error. `tail` is the end of what it wrote. */
export class ProgramError extends Error {
  readonly tail: string;
  constructor(program: string, why: string, tail: string) {
    super(`${program} ${why}: ${tail.trim().split('\n').at(-1) ?? ''}`);
    this.name = 'ProgramError';
    this.tail = tail;
  }
}

const TAIL_BYTES = 4_000;

/**
 * Runs a program to its end, within limits; no shell is involved. It ends with this process, however that ends.
 *
 * @returns what it wrote to its standard output
 * @throws ProgramError; the signal's reason
 */
export const runProgram = (
  program: string,
  args: readonly string[],
  { signal, cwd, ...limits }: Limits & { signal?: AbortSignal | undefined; cwd?: string } = {},
): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    const [command, ...rest] = limited([program, ...args], limits);
    const child = spawn(command!, rest, { stdio: ['ignore', 'pipe', 'pipe'], cwd });
    const parts: Buffer[] = [];
    let tail = '';
    let late = false;
    const kill = () => void child.kill('SIGKILL');
    const clock = watchWork(child.pid, limits, () => {
      late = true;
      kill();
    });
    child.stdout.on('data', (part: Buffer) => parts.push(part));
    child.stderr.setEncoding('utf8');
    child.stderr.on('data', (text: string) => {
      tail = (tail + text).slice(-TAIL_BYTES);
    });
    if (signal?.aborted) kill();
    else signal?.addEventListener('abort', kill, { once: true });
    const over = () => {
      clock.stop();
      signal?.removeEventListener('abort', kill);
    };
    child.once('error', (error) => {
      over();
      reject(error);
    });
    child.once('close', (code) => {
      over();
      if (signal?.aborted) reject(signal.reason as Error);
      else if (late) reject(new ProgramError(program, 'took too long', tail));
      else if (code !== 0)
        reject(new ProgramError(program, `ended with ${code ?? 'a signal'}`, tail));
      else resolve(Buffer.concat(parts));
    });
  });
