import { spawn, type ChildProcess } from 'node:child_process';
import { counted, watchWork, workOf, type WorkLimits } from './work-clock';

jest.setTimeout(60_000);

const had = (usedMs: number, waitedMs = 0, waits = false) => ({ usedMs, waitedMs, waits });

it('counts what a process worked and stood still, and nothing that it waited for others', () => {
  expect(counted(500, 500, had(0), had(490))).toBe(500);
  expect(counted(500, 500, had(100), had(1_000))).toBe(500);
  // It worked for 200 ms, waited for 250 and stood still for 50.
  expect(counted(500, 500, had(0), had(200, 250))).toBe(250);
  // Waiting at this moment, it has waited since it last had a processor.
  expect(counted(600, 500, had(0), had(20, 0, true))).toBe(20);
  expect(counted(500, 500, had(0), had(0, 0, true))).toBe(0);
  expect(counted(500, 500, had(0), had(0))).toBe(500);
});

it('counts no more standing still than whoever watches was at work', () => {
  expect(counted(20_000, 500, had(0), had(0))).toBe(500);
  expect(counted(20_000, 500, null, null)).toBe(500);
});

it('knows what a process and its children have had', () => {
  const before = workOf(process.pid)!;
  for (const until = performance.now() + 200; performance.now() < until;);
  expect(workOf(process.pid)!.usedMs - before.usedMs).toBeGreaterThan(20);
  expect(workOf(2 ** 30)).toBeNull();
});

describe('a limit', () => {
  const children: ChildProcess[] = [];
  afterEach(() => {
    // Each leads a group of its own: with its children.
    for (const child of children.splice(0)) process.kill(-child.pid!, 'SIGKILL');
  });
  const node = (script: string) => {
    const child = spawn(process.execPath, ['-e', script], { stdio: 'ignore', detached: true });
    children.push(child);
    return child.pid!;
  };
  const lateAfter = async (pid: number, limits: WorkLimits) => {
    const began = performance.now();
    let forgivenMs = 0;
    const limit = await new Promise((resolve) =>
      watchWork(pid, { ...limits, forgiven: (ms) => (forgivenMs += ms) }, resolve),
    );
    return { limit, passedMs: performance.now() - began, forgivenMs };
  };
  const LOOP = 'for (;;);';

  it('comes for what works without end, by the time that it worked', async () => {
    const { limit, passedMs, forgivenMs } = await lateAfter(node(LOOP), { deadlineMs: 1_000 });
    expect(limit).toBe('deadline');
    expect(passedMs).toBeGreaterThan(950);
    expect(passedMs - forgivenMs).toBeLessThan(2_000);
  });
  it('comes for what works in a child of its own', async () => {
    const parent = node(`require('child_process').spawnSync(process.execPath, ['-e', '${LOOP}'])`);
    const { limit } = await lateAfter(parent, { deadlineMs: 1_000 });
    expect([limit, workOf(parent)!.usedMs > 500]).toEqual(['deadline', true]);
  });
  it('comes for what stands still', async () => {
    const { limit, passedMs } = await lateAfter(node('setTimeout(() => {}, 1e9)'), {
      deadlineMs: 60_000,
      quietMs: 1_000,
    });
    expect(limit).toBe('quiet');
    expect(passedMs).toBeGreaterThan(950);
  });
  it('doesn’t come for what waits for its turn', async () => {
    // One processor for nine: it gets a hundredth of it, and works for less than its limit.
    const on = (script: string, niceness: number) => {
      const args = ['-c', '0', 'nice', '-n', String(niceness), process.execPath, '-e', script];
      const child = spawn('taskset', args, { stdio: 'ignore', detached: true });
      children.push(child);
      return child.pid!;
    };
    for (let others = 0; others < 8; others++) on(LOOP, 0);
    const pid = on(LOOP, 19);
    let late = false;
    const clock = watchWork(pid, { deadlineMs: 2_500, quietMs: 2_500 }, () => (late = true));
    await new Promise((resolve) => setTimeout(resolve, 5_000));
    clock.stop();
    expect([late, workOf(pid)!.usedMs > 0]).toEqual([false, true]);
    expect(clock.countedMs()).toBeLessThan(2_000);
  });
  it('counts from the last sign of life, and never comes when it is called off', async () => {
    let late = 0;
    const heard = watchWork(process.pid, { quietMs: 400 }, () => late++);
    const over = watchWork(process.pid, { deadlineMs: 60 }, () => late++);
    over.stop();
    for (let times = 0; times < 12; times++) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      heard.heard();
    }
    heard.stop();
    expect(late).toBe(0);
  });
});
