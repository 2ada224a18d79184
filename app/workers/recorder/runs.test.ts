/** @jest-environment node */
import type { Recovery } from '../../capture/recorder-messages';
import { nowUs } from '../../capture/common-clock';
import { Runs, type Run } from './runs';

/** An encoder that can be made to fail; each run that was ended counts what it had made. */
class FakeRun implements Run {
  readonly beganUs = nowUs();
  readonly file = { packets: 0 };
  failed: unknown = null;
  over = false;
  constructor(readonly settings: string) {}
  end() {
    this.over = true;
    return Promise.resolve();
  }
}

const track = (unusable: readonly string[] = []) => {
  const opened: FakeRun[] = [];
  const told: Recovery[] = [];
  const runs = new Runs<string, FakeRun>({
    what: 'camera',
    open(settings) {
      if (unusable.includes(settings)) throw new Error('not after all');
      opened.push(new FakeRun(settings));
      return opened.at(-1)!;
    },
    recovered: (recovery) => void told.push(recovery),
  });
  return { runs, opened, told, working: () => runs.working(async () => ['high', 'half']) };
};

beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => undefined));
afterEach(() => jest.restoreAllMocks());

it('is one run for as long as its encoder works', async () => {
  const { opened, told, working } = track();
  expect(await working()).toBe(await working());
  expect([opened.length, told]).toEqual([1, []]);
});

it('follows an encoder that fails, ends what it had made, and counts all of it', async () => {
  const { runs, opened, told, working } = track();
  for (const packets of [30, 20, 10]) {
    const run = (await working())!;
    run.file.packets = packets;
    run.failed = new Error('the driver went');
  }
  await working();
  expect(opened.map(({ settings }) => settings)).toEqual(['high', 'high', 'half', 'half']);
  expect(told).toEqual(['again', 'simpler', 'again']);
  expect(opened.map(({ over }) => over)).toEqual([true, true, true, false]);
  expect(runs.packets).toBe(60);
  await runs.end();
  expect(opened.at(-1)!.over).toBe(true);
});

it('goes past settings that can’t be used after all', async () => {
  const { opened, told, working } = track(['high']);
  await working();
  expect(opened.map(({ settings }) => settings)).toEqual(['half']);
  expect(told).toEqual(['again', 'simpler']);
});

it('is gone when nothing works, says so once, and tells it at the end', async () => {
  const { runs, told, working } = track(['high', 'half']);
  expect(await working()).toBeNull();
  expect(await working()).toBeNull();
  expect([runs.gone, told]).toEqual([true, ['again', 'simpler', 'again', 'gone']]);
  await expect(runs.end()).rejects.toThrow('no encoder for the camera');
});

it('tells at the end when the last of it could not be encoded', async () => {
  const { runs, working } = track();
  (await working())!.failed = new Error('the driver went');
  await expect(runs.end()).rejects.toThrow('the driver went');
});
