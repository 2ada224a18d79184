/** @jest-environment node */
import {
  ALL_FORMATS,
  BufferSource,
  EncodedPacketSink,
  Input,
  type EncodedPacket,
} from 'mediabunny';
import type { PieceLine } from './piece-line';
import { TrackFile } from './track-file';

/** As an encoder gives them; there is none here. */
class Chunk {
  readonly byteLength: number;
  readonly #bytes: Uint8Array;
  constructor(
    readonly timestamp: number,
    readonly type: 'key' | 'delta',
    readonly duration: number | null,
    size: number,
  ) {
    this.byteLength = size;
    this.#bytes = new Uint8Array(size).fill(size % 251);
  }
  copyTo(to: Uint8Array): void {
    to.set(this.#bytes);
  }
}
Object.assign(globalThis, { EncodedVideoChunk: Chunk, EncodedAudioChunk: Chunk });

let pieces: Uint8Array[] = [];
beforeEach(() => {
  pieces = [];
});
const line = {
  write: (piece: Uint8Array) => Promise.resolve(void pieces.push(piece)),
} as PieceLine;

/** What a reader finds in what has been written. */
const packetsIn = async (written: readonly Uint8Array[]): Promise<EncodedPacket[]> => {
  const bytes = Uint8Array.from(written.flatMap((piece) => [...piece]));
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
  const [track] = await input.getTracks();
  const packets: EncodedPacket[] = [];
  for await (const packet of new EncodedPacketSink(track!).packets()) packets.push(packet);
  return packets;
};

const PICTURE = { decoderConfig: { codec: 'vp8', codedWidth: 640, codedHeight: 480 } };
const SOUND = { decoderConfig: { codec: 'opus', sampleRate: 48_000, numberOfChannels: 1 } };

/** Three seconds of pictures, a key every second. */
const film = async () => {
  const file = new TrackFile('vp8', line);
  for (let index = 0; index < 90; index++) {
    const atUs = Math.round((index * 1e6) / 30);
    const chunk = new Chunk(atUs, index % 30 === 0 ? 'key' : 'delta', null, 100 + index);
    file.addVideo(chunk as EncodedVideoChunk, index === 0 ? PICTURE : undefined);
  }
  await file.finish();
  return file;
};

it('holds every picture where it was put, and each piece begins with one that needs no other', async () => {
  const file = await film();
  expect([file.packets, pieces.length]).toEqual([90, 3]);
  const packets = await packetsIn(pieces);
  expect(packets).toHaveLength(90);
  packets.forEach((packet, index) => {
    expect(packet.timestamp).toBeCloseTo(index / 30, 4);
    expect(packet.duration).toBeCloseTo(1 / 30, 4);
    expect(packet.type).toBe(index % 30 === 0 ? 'key' : 'delta');
    expect([...packet.data]).toEqual(Array(100 + index).fill((100 + index) % 251));
  });
});

it('can be read up to the last piece that was written', async () => {
  await film();
  expect(await packetsIn(pieces.slice(0, 1))).toHaveLength(30);
  expect(await packetsIn(pieces.slice(0, 2))).toHaveLength(60);
});

it('puts sound at its recorded time, leaves no packet without a length, and none on another', async () => {
  const file = new TrackFile('opus', line);
  const times = [0, 20_000, 40_000, 540_000, 540_000, 580_000];
  times.forEach((atUs, index) => {
    const last = index === times.length - 1;
    // The encoder's own count knows nothing of the gap.
    const chunk = new Chunk(index * 20_000, 'key', last ? 0 : 20_000, 50 + index);
    file.addAudio(chunk as EncodedAudioChunk, atUs, index === 0 ? SOUND : undefined);
  });
  await file.finish();
  const packets = await packetsIn(pieces);
  const at = packets.map(({ timestamp }) => Math.round(timestamp * 1e6));
  expect(at).toEqual([0, 20_000, 40_000, 540_000, 540_021, 580_000]);
  expect(packets.at(-1)!.duration).toBeCloseTo(0.02, 4);
});

it('begins where its first packet does', async () => {
  const file = new TrackFile('opus', line);
  file.addAudio(new Chunk(0, 'key', 20_000, 50) as EncodedAudioChunk, 1_234_000, SOUND);
  await file.finish();
  expect((await packetsIn(pieces))[0]!.timestamp).toBeCloseTo(1.234, 4);
});

it('rejects at the end when its head could not be made, and has written nothing', async () => {
  const file = new TrackFile('vp8', line);
  file.addVideo(new Chunk(0, 'key', null, 100) as EncodedVideoChunk, undefined);
  await expect(file.finish()).rejects.toThrow();
  expect(pieces).toEqual([]);
});
