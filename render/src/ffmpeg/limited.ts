import { spawnSync } from 'node:child_process';

/** What a process may take; nothing is without limit where the file is somebody else's. */
export interface Limits {
  /** Longest it may work or stand still, ms. What it waits for a processor or a disk doesn't count (`work-clock`). */
  readonly deadlineMs?: number;
  /** Told of time that doesn't count against the deadline, ms. */
  readonly forgiven?: (ms: number) => void;
  /** Longest of that time without a sign of life on its outputs, ms. For one whose output is read without delay. */
  readonly quietMs?: number;
  /**
   * Most memory it may ask for (its address space), bytes. To go with a deadline: ffmpeg that is refused
   * memory can stand still for ever (seen with 5.1).
   */
  readonly memoryBytes?: number;
  /** Most memory it may use of its own (RLIMIT_DATA), bytes: for one that asks for far more room than it uses. */
  readonly dataBytes?: number;
  /** Gives way to other processes. */
  readonly background?: boolean;
}

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
  { memoryBytes, dataBytes, background }: Limits,
): string[] => {
  const { setpriv, prlimit, nice } = programs();
  return [
    ...(setpriv ? ['setpriv', '--pdeathsig', 'KILL'] : []),
    ...(prlimit && memoryBytes !== undefined ? ['prlimit', `--as=${memoryBytes}`, '--core=0'] : []),
    ...(prlimit && dataBytes !== undefined ? ['prlimit', `--data=${dataBytes}`, '--core=0'] : []),
    ...(nice && background ? ['nice', '-n', '10'] : []),
    ...command,
  ];
};
