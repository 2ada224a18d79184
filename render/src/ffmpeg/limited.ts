import { spawnSync } from 'node:child_process';
import type { Limits } from './run';

/** Whether a program is here and does what is asked of it. */
const works = (program: string, ...args: string[]): boolean =>
  process.platform === 'linux' && spawnSync(program, args, { stdio: 'ignore' }).status === 0;

let has: { setpriv: boolean; prlimit: boolean; nice: boolean } | null = null;

/** util-linux and coreutils: on every Linux, and tried once. Elsewhere a process has its deadlines only. */
const programs = () =>
  (has ??= {
    setpriv: works('setpriv', '--pdeathsig', 'KILL', 'true'),
    prlimit: works('prlimit', '--as=1000000000', 'true'),
    nice: works('nice', '-n', '5', 'true'),
  });

/**
 * A command that runs another within limits, by small programs that each become the next: it is ended by
 * the kernel when the thread that started it ends (prctl(2), PR_SET_PDEATHSIG), also by `kill -9`, so that
 * none outlives the server and writes into what its successor makes; and it gets no more memory than it may.
 */
export const limited = (
  command: readonly string[],
  { memoryBytes, background }: Limits,
): string[] => {
  const { setpriv, prlimit, nice } = programs();
  return [
    ...(setpriv ? ['setpriv', '--pdeathsig', 'KILL'] : []),
    ...(prlimit && memoryBytes !== undefined ? ['prlimit', `--as=${memoryBytes}`, '--core=0'] : []),
    ...(nice && background ? ['nice', '-n', '10'] : []),
    ...command,
  ];
};
