import * as fc from 'fast-check';
import { againstMasterPlaylist, againstMediaPlaylist } from '../testing/hls-rules';
import { masterPlaylist, mediaPlaylist, targetSecondsOf } from './playlist';
import { SOUND_PACKET } from '../sound/film-sound';
import { pictureSegments, soundSegments } from './segments';

const film = fc.record({
  chunks: fc.array(fc.integer({ min: 1, max: 256 }), { minLength: 1, maxLength: 60 }),
  sound: fc.array(fc.integer({ min: 1, max: 2_000 }), { minLength: 1, maxLength: 20 }),
});

it('divides a film into segments that follow on one another, and leaves out the packet that is not heard', () => {
  fc.assert(
    fc.property(film, (of) => {
      const pictures = pictureSegments(of);
      let frame = 0;
      for (const segment of pictures) {
        expect(segment.frame).toBe(frame);
        frame += segment.frames;
      }
      const sound = soundSegments(of);
      let packet = 1;
      for (const segment of sound) {
        expect([segment.packet, segment.sample]).toEqual([packet, (packet - 1) * SOUND_PACKET]);
        expect(segment.packets).toBeGreaterThan(0);
        expect(segment.seconds).toBeLessThan(5.5);
        expect(segment.inPiece + segment.packets).toBeLessThanOrEqual(of.sound[segment.piece]!);
        packet += segment.packets;
      }
      expect(packet).toBe(of.sound.reduce((sum, one) => sum + one, 0));
    }),
    { seed: 3 },
  );
});

it('writes playlists that keep the rules of RFC 8216, whatever the film', () => {
  fc.assert(
    fc.property(film, (of) => {
      const tracks = [pictureSegments(of), soundSegments(of)].filter(({ length }) => length > 0);
      const targetSeconds = targetSecondsOf(tracks.flat());
      for (const segments of tracks) {
        const text = mediaPlaylist({
          headUri: 'picture/head.mp4',
          segments: segments.map(({ seconds }, at) => ({ uri: `picture/${at}.m4s`, seconds })),
          targetSeconds,
        });
        expect(againstMediaPlaylist(text)).toEqual([]);
      }
    }),
    { seed: 4 },
  );
  const variant = { uri: 'picture.m3u8', peakBits: 2_000_000.4, meanBits: 900_000 };
  const text = masterPlaylist({
    variants: [
      {
        ...variant,
        ...{ widthPx: 1280, heightPx: 720, framesPerSecond: 30, codec: 'avc1.640033' },
      },
    ],
    sound: { uri: 'sound.m3u8', codec: 'mp4a.40.2', channels: 2 },
  });
  expect(againstMasterPlaylist(text)).toEqual([]);
  expect(text).toContain('BANDWIDTH=2000001,AVERAGE-BANDWIDTH=900000');
});

it('finds what is wrong with a playlist', () => {
  const good = mediaPlaylist({
    headUri: 'head.mp4',
    segments: [{ uri: '0.m4s', seconds: 2.5 }],
    targetSeconds: 3,
  });
  const wrong: [string, string][] = [
    ['DURATION:3', 'DURATION:2'],
    ['DURATION:3', 'DURATION:2.5'],
    ['VERSION:7', 'VERSION:3'],
    ['#EXT-X-ENDLIST', ''],
    ['#EXTINF:2.500000,', '#EXTINF:2,'],
    ['0.m4s\n', ''],
    ['#EXT-X-MAP:URI="head.mp4"\n', ''],
    ['#EXTM3U\n', ''],
  ];
  for (const [from, to] of wrong) {
    expect(againstMediaPlaylist(good.replace(from, to))).not.toEqual([]);
  }
});
