/**
 * Runs tasks beside one another: each when what it needs is done and enough cores are free.
 *
 * @typedef {object} Task
 * @property {string} name
 * @property {readonly string[]} [needs] names of tasks that come before; those that aren't in the list count as done
 * @property {number} [cores] how many it keeps busy; 0: it waits for a network or a disk
 * @property {() => Promise<boolean>} run resolves with whether it passed
 */

/**
 * After a failure nothing more is begun, and what goes on is waited for.
 *
 * @param {readonly Task[]} tasks in the order of their importance
 * @param {number} cores
 * @param {(name: string, passed: boolean, seconds: number) => void} onDone
 * @returns {Promise<Map<string, { passed: boolean, seconds: number }>>} what was run, by name
 */
export const runTasks = async (tasks, cores, onDone) => {
  const done = new Map();
  const waiting = new Set(tasks);
  const going = new Map();
  const names = new Set(tasks.map(({ name }) => name));
  let free = cores;
  const isReady = ({ needs = [] }) => needs.every((name) => !names.has(name) || done.has(name));
  const begin = (task) => {
    const { name, run, cores: wanted = 1 } = task;
    const began = Date.now();
    waiting.delete(task);
    free -= wanted;
    const end = (passed) => {
      free += wanted;
      going.delete(name);
      const seconds = (Date.now() - began) / 1000;
      done.set(name, { passed, seconds });
      onDone(name, passed, seconds);
    };
    going.set(
      name,
      run().then(end, (error) => {
        console.error(error);
        end(false);
      }),
    );
  };
  for (;;) {
    const isFine = [...done.values()].every(({ passed }) => passed);
    for (const task of isFine ? waiting : []) {
      if (!isReady(task)) continue;
      // What waits for more cores than are free keeps others from taking them.
      if ((task.cores ?? 1) > free) break;
      begin(task);
    }
    if (going.size === 0) return done;
    await Promise.race(going.values());
  }
};
