import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

const POLL_MS = 100;

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

const taken = (path) => {
  try {
    writeFileSync(path, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    return false;
  }
};

/** Runs `work` while holding a lock file. The lock of a process that has died is taken over. */
export const withLock = async (path, work) => {
  mkdirSync(dirname(path), { recursive: true });
  while (!taken(path)) {
    let holder = 0;
    try {
      holder = Number(readFileSync(path, 'utf8'));
    } catch {
      continue; // Released just now.
    }
    if (holder > 0 && !isAlive(holder)) rmSync(path, { force: true });
    else await new Promise((resolve) => setTimeout(resolve, POLL_MS));
  }
  try {
    return await work();
  } finally {
    rmSync(path, { force: true });
  }
};
