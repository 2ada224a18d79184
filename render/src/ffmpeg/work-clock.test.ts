import { spawn } from 'node:child_process';
import { counted, usedMs, whenLate } from './work-clock';

it('counts what a process had, all of what it stood still, and a part of what it waited for others', () => {
  expect(counted(500, 490)).toBe(490);
  expect(counted(500, 900)).toBe(500);
  expect(counted(500, 200)).toBe(200);
  expect(counted(600, 20)).toBe(100);
  expect(counted(500, 0)).toBe(500);
  expect(counted(500, null)).toBe(500);
});

it('knows what a process has used', () => {
  const before = usedMs(process.pid)!;
  for (const until = performance.now() + 200; performance.now() < until;);
  expect(usedMs(process.pid)! - before).toBeGreaterThan(20);
  expect(usedMs(2 ** 30)).toBeNull();
});

describe('a deadline', () => {
  const lateAfter = async (script: string, deadlineMs: number) => {
    const child = spawn(process.execPath, ['-e', script], { stdio: 'ignore' });
    const began = performance.now();
    let forgiven = 0;
    await new Promise<void>((resolve) =>
      whenLate(child.pid, deadlineMs, resolve, (ms) => (forgiven += ms)),
    );
    child.kill('SIGKILL');
    return { passed: performance.now() - began, forgiven };
  };
  it('comes for what works without end, and no later than six times', async () => {
    const { passed, forgiven } = await lateAfter('for (;;);', 1_000);
    expect(passed).toBeGreaterThan(990);
    // And a look: on a machine that is busy itself they come late.
    expect(passed).toBeLessThan(9_000);
    expect(passed - forgiven).toBeLessThan(3_500);
  });
  it('leaves what shares its processor with others as long as it works', async () => {
    // At work for a third of the time, as one that two others keep from it.
    const third = `setInterval(() => { for (const until = Date.now() + 40; Date.now() < until; ); }, 120);`;
    const { passed, forgiven } = await lateAfter(third, 1_000);
    expect(passed).toBeGreaterThan(1_700);
    expect(forgiven).toBeGreaterThan(700);
  });
  it('comes in time for what stands still', async () => {
    // It starts, and then waits for ever: its start alone is forgiven nothing but what it waited.
    const { passed } = await lateAfter('setTimeout(() => {}, 1e9)', 2_000);
    expect(passed).toBeLessThan(9_000);
  });
  it('never comes when it is called off', async () => {
    let late = 0;
    const over = whenLate(process.pid, 60, () => late++);
    over();
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(late).toBe(0);
  });
});
