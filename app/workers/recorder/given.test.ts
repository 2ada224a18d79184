/** @jest-environment node */
import { framesOf, samplesOf } from './given';

/** The page's end of a port: notes what it is asked for, and answers when it is told to. */
const page = () => {
  const { port1, port2 } = new MessageChannel();
  const asked: unknown[] = [];
  port1.onmessage = ({ data }) => asked.push(data);
  return {
    asked,
    port: port2 as unknown as MessagePort,
    send: (what: unknown) => port1.postMessage(what),
    close: () => port1.close(),
  };
};
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

it('hands on what the browser gives by itself', () => {
  const readable = new ReadableStream();
  expect(framesOf({ readable })).toBe(readable);
  expect(samplesOf({ readable })).toBe(readable);
});

it('asks for a frame, and for no other until it has come', async () => {
  const { asked, port, send, close } = page();
  const reader = framesOf({ port }).getReader();
  await pause(150);
  expect(asked).toEqual(['next']);
  send({ frame: 1 });
  expect(await reader.read()).toEqual({ done: false, value: { frame: 1 } });
  await pause(150);
  expect(asked).toEqual(['next', 'next']);
  // No picture yet: it is asked for again, and nothing is passed on.
  send(null);
  await pause(150);
  expect(asked).toHaveLength(3);
  send({ frame: 2 });
  expect(await reader.read()).toEqual({ done: false, value: { frame: 2 } });
  await reader.cancel();
  const told = asked.length;
  await pause(150);
  expect(asked.length).toBeLessThanOrEqual(told + 1);
  close();
});

it('makes sound of samples, with stamps that count them', async () => {
  class Given {
    constructor(readonly init: { timestamp: number; numberOfFrames: number }) {}
  }
  Object.assign(globalThis, { AudioData: Given });
  const { port, send, close } = page();
  const reader = samplesOf({ port }).getReader();
  const block = { planes: new Float32Array(960), channels: 2, sampleRate: 48_000 };
  send(block);
  send(block);
  const inits = [];
  for (let times = 0; times < 2; times++) {
    const { value } = await reader.read();
    inits.push((value as unknown as Given).init);
  }
  expect(inits).toMatchObject([
    { timestamp: 0, numberOfFrames: 480, numberOfChannels: 2, sampleRate: 48_000 },
    { timestamp: 10_000, numberOfFrames: 480 },
  ]);
  await reader.cancel();
  close();
});
