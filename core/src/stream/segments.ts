import { FILM_SOUND_RATE, SOUND_PACKET } from '../sound/film-sound';
import { FILM_FPS } from '../time/frames';

/**
 * How a film is divided into segments, each to be fetched by itself. A segment of pictures is a chunk of the film; one of
 * sound is a part of one of its pieces.
 */

/** Pieces that a film is made of, in order, as far as it takes to divide it. */
export interface StreamedFilm {
  /** Frames of each chunk of pictures. */
  readonly chunks: readonly number[];
  /** Packets of each piece of sound. */
  readonly sound: readonly number[];
}

/** Ticks in a second of the picture. */
export const PICTURE_TIMESCALE = 30_000;
export const FRAME_TICKS = PICTURE_TIMESCALE / FILM_FPS;

/** A segment of sound has so many packets at most: 5.3 s. */
const MOST_PACKETS = 250;

export interface PictureSegment {
  readonly chunk: number;
  /** Frame of the film that it begins with. */
  readonly frame: number;
  readonly frames: number;
  readonly seconds: number;
}

export interface SoundSegment {
  readonly piece: number;
  /** Packet of the film that it begins with, and which of its piece that is. */
  readonly packet: number;
  readonly inPiece: number;
  readonly packets: number;
  /** When its first packet is heard, in samples of the film. */
  readonly sample: number;
  readonly seconds: number;
}

export const pictureSegments = ({ chunks }: StreamedFilm): PictureSegment[] => {
  let frame = 0;
  return chunks.map((frames, chunk) => {
    const segment = { chunk, frame, frames, seconds: frames / FILM_FPS };
    frame += frames;
    return segment;
  });
};

/**
 * The first packet of a film's sound only opens the second, and is heard before the film begins: it is in no segment. An
 * encoder's delay can't be told in a fragment, and what is lost of the first packet's second half is a fade of 21 ms.
 */
const NOT_HEARD = 1;

export const soundSegments = ({ sound }: StreamedFilm): SoundSegment[] => {
  let packet = 0;
  return sound.flatMap((all, piece) => {
    const begins = packet;
    packet += all;
    const first = begins === 0 ? NOT_HEARD : 0;
    const left = all - first;
    const parts = Math.ceil(left / MOST_PACKETS);
    return Array.from({ length: parts }, (_, part): SoundSegment => {
      const inPiece = first + Math.floor((left * part) / parts);
      const packets = first + Math.floor((left * (part + 1)) / parts) - inPiece;
      const sample = (begins + inPiece - NOT_HEARD) * SOUND_PACKET;
      const seconds = (packets * SOUND_PACKET) / FILM_SOUND_RATE;
      return { piece, packet: begins + inPiece, inPiece, packets, sample, seconds };
    });
  });
};
