import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';

/** Resident memory of a process and what it shares out, MB. */
export const residentMb = (pid: number): number => {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
};

/** Processes that draw and compute for a page's browser. */
export const renderersOf = async (page: Page): Promise<number[]> => {
  const session = await page.context().browser()!.newBrowserCDPSession();
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  return processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id);
};

const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** The memory that a page's browser takes for drawing and computing, over time. */
export class Memory {
  readonly #processes: readonly number[];
  #seen: { at: number; mb: number }[] = [];

  private constructor(processes: readonly number[]) {
    this.#processes = processes;
  }

  static async of(page: Page): Promise<Memory> {
    return new Memory(await renderersOf(page));
  }

  /** Looks at it, every two seconds at most. @param at seconds since the start */
  look(at: number): void {
    const last = this.#seen.at(-1);
    if (last && at - last.at < 2) return;
    this.#seen.push({ at, mb: this.#processes.reduce((sum, pid) => sum + residentMb(pid), 0) });
  }

  /**
   * How much more it is at the end than near the beginning, as a share.
   *
   * @param span seconds that are compared: the last, and those after the first ones
   */
  growthShare(span: number): number {
    const end = this.#seen.at(-1)?.at ?? 0;
    const from = Math.min(span, end / 4);
    const during = (start: number) =>
      median(this.#seen.filter(({ at }) => at >= start && at < start + span).map(({ mb }) => mb));
    return Number((during(Math.max(0, end - span)) / during(from) - 1).toFixed(3));
  }
}
