import { contentAt, headerAt } from '@under-chalk/core/mp4/box';
import { Fragments, timescaleIn } from '@under-chalk/core/mp4/fragments';
import { run } from '@under-chalk/render';
import {
  ALL_FORMATS,
  EncodedPacketSink,
  type EncodedPacket,
  FilePathSource,
  Input,
} from 'mediabunny';
import { readFile, rm } from 'node:fs/promises';

/**
 * A track of a file as the recorder writes it: a head, then fragments of a second. For tests.
 *
 * @param times how often it stands in it, one after the other
 * @param path an MP4 of one stream with no picture shown before one it is decoded after
 */
export const asRecorded = async (path: string, times = 1): Promise<Buffer> => {
  const headPath = `${path}.head.mp4`;
  await run('ffmpeg', [
    ...['-copyts', '-i', path, '-c', 'copy', '-t', '1'],
    ...['-movflags', '+frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4', headPath],
  ]);
  const fragmented = await readFile(headPath);
  await rm(headPath);
  let headEnd = 0;
  for (let box = headerAt(fragmented, 0); box && box.name !== 'moof';) {
    headEnd += box.length;
    box = headerAt(fragmented, headEnd);
  }
  const timescale = timescaleIn(contentAt(fragmented, 'moov')!)!;
  const fragments = new Fragments(timescale);
  const parts: Uint8Array[] = [fragmented.subarray(0, headEnd)];
  const input = new Input({ source: new FilePathSource(path), formats: ALL_FORMATS });
  const [track] = await input.getTracks();
  const ticks = (seconds: number) => Math.round(seconds * timescale);
  const packets: EncodedPacket[] = [];
  for await (const packet of new EncodedPacketSink(track!).packets()) packets.push(packet);
  input.dispose();
  // A recorder begins at 0, or later: what a sound's decoder warms up with comes before it elsewhere.
  const first = Math.min(0, ticks(packets[0]!.timestamp));
  // All as long as the first: elsewhere the last one may be cut short by an edit list.
  const usual = ticks(packets[0]!.duration);
  const length = ticks(packets.at(-1)!.timestamp) + usual - first;
  for (let again = 0; again < times; again++) {
    for (const { data, timestamp, type } of packets) {
      const at = ticks(timestamp) - first + again * length;
      const fragment = fragments.add({ bytes: data, at, duration: usual, key: type === 'key' });
      if (fragment) parts.push(fragment);
    }
  }
  parts.push(fragments.end()!);
  return Buffer.concat(parts);
};
