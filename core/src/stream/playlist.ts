/**
 * Playlists of HTTP Live Streaming (RFC 8216) for a film that is known whole before it is made. Numbers in brackets are
 * its sections.
 */

/** A part of a track, to be fetched by itself. */
export interface ListedSegment {
  readonly uri: string;
  readonly seconds: number;
}

export interface MediaPlaylist {
  /** What comes before the first segment (4.3.2.5). */
  readonly headUri: string;
  readonly segments: readonly ListedSegment[];
  /** The same for all tracks of a film (6.2.4), whole seconds. */
  readonly targetSeconds: number;
}

/** Byte ranges aside, fragmented MP4 needs version 6 (7); 7 is what its other players ask for. */
const VERSION = 7;

/** The longest segment, rounded as clients round it (4.3.3.1). */
export const targetSecondsOf = (segments: Iterable<Pick<ListedSegment, 'seconds'>>): number => {
  let longest = 1;
  for (const { seconds } of segments) longest = Math.max(longest, Math.round(seconds));
  return longest;
};

/** The playlist of one track, whole from the beginning: nothing will be added to it (4.3.3.4, 4.3.3.5). */
export const mediaPlaylist = ({ headUri, segments, targetSeconds }: MediaPlaylist): string =>
  [
    '#EXTM3U',
    `#EXT-X-VERSION:${VERSION}`,
    `#EXT-X-TARGETDURATION:${targetSeconds}`,
    '#EXT-X-MEDIA-SEQUENCE:0',
    '#EXT-X-PLAYLIST-TYPE:VOD',
    `#EXT-X-MAP:URI="${headUri}"`,
    ...segments.flatMap(({ uri, seconds }) => [`#EXTINF:${seconds.toFixed(6)},`, uri]),
    '#EXT-X-ENDLIST',
    '',
  ].join('\n');

/** A film in one size of picture. */
export interface Variant {
  readonly uri: string;
  /** The most that its segments and those of the sound take, and what they take on the whole, bits a second (4.3.4.2). */
  readonly peakBits: number;
  readonly meanBits: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly framesPerSecond: number;
  /** RFC 6381, as `avc1.640033`. */
  readonly codec: string;
}

export interface MasterPlaylist {
  /** The one to begin with first. */
  readonly variants: readonly Variant[];
  readonly sound: { readonly uri: string; readonly codec: string; readonly channels: number };
}

/** The playlist of playlists. Each segment can be decoded without those before it (4.3.5.1). */
export const masterPlaylist = ({ variants, sound }: MasterPlaylist): string =>
  [
    '#EXTM3U',
    `#EXT-X-VERSION:${VERSION}`,
    '#EXT-X-INDEPENDENT-SEGMENTS',
    `#EXT-X-MEDIA:TYPE=AUDIO,GROUP-ID="sound",NAME="Sound",DEFAULT=YES,AUTOSELECT=YES,CHANNELS="${sound.channels}",URI="${sound.uri}"`,
    ...variants.flatMap(
      ({ uri, peakBits, meanBits, widthPx, heightPx, framesPerSecond, codec }) => [
        `#EXT-X-STREAM-INF:BANDWIDTH=${Math.ceil(peakBits)},AVERAGE-BANDWIDTH=${Math.ceil(meanBits)},CODECS="${codec},${sound.codec}",RESOLUTION=${widthPx}x${heightPx},FRAME-RATE=${framesPerSecond.toFixed(3)},AUDIO="sound"`,
        uri,
      ],
    ),
    '',
  ].join('\n');
