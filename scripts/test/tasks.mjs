/**
 * Runs tasks in parallel. A task starts when its dependencies are done and enough cores are free.
 *
 * @typedef {object} Task
 * @property {string} name
 * @property {readonly string[]} [needs] names of tasks that must finish first; names not in the list are ignored
 * @property {number} [cores] number of cores it uses; 0: mostly waits for network or disk
 * @property {() => Promise<boolean>} run resolves with whether it passed
 */

/**
 * After a failure no further task starts; running tasks are awaited.
 *
 * @param {readonly Task[]} tasks in order of priority
 * @param {number} cores
 * @param {(name: string, passed: boolean, seconds: number) => void} onDone
 * @returns {Promise<Map<string, { passed: boolean, seconds: number }>>} results of the tasks that ran, by name
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
      // Tasks behind it must not take the cores that it waits for.
      if ((task.cores ?? 1) > free) break;
      begin(task);
    }
    if (going.size === 0) return done;
    await Promise.race(going.values());
  }
};
