import { formatSpoken, type Us } from '../time/us';
import { megabytes, type Destination } from './destination';

/** A film that has been made, as a place sees it. */
export interface MadeFilm {
  readonly filmUs: Us;
  readonly bytes: number;
  /** Captions go along in it. */
  readonly isCaptioned: boolean;
}

/** What of a place's limits a film that was made keeps to; each with its sentence. */
export interface MadeCheck {
  /** Null: there is none. */
  readonly length: { readonly fits: boolean; readonly sentence: string } | null;
  readonly bytes: { readonly fits: boolean; readonly sentence: string } | null;
  readonly captions: { readonly fits: boolean; readonly sentence: string } | null;
}

/** Measures a film that was made against the place that it goes to. */
export const madeCheck = (
  { filmUs, bytes, isCaptioned }: MadeFilm,
  { name, leastUs, mostUs, mostBytes, captionsRequired }: Destination,
): MadeCheck => {
  const long = mostUs !== null && filmUs > mostUs;
  const short = filmUs < leastUs;
  return {
    length:
      mostUs === null && leastUs === 0
        ? null
        : {
            fits: !long && !short,
            sentence: long
              ? `It is longer than “${name}” takes: ${formatSpoken(mostUs)}.`
              : short
                ? `It is shorter than “${name}” takes: ${formatSpoken(leastUs)}.`
                : `Its length fits “${name}”.`,
          },
    bytes:
      mostBytes === null
        ? null
        : {
            fits: bytes <= mostBytes,
            sentence:
              bytes <= mostBytes
                ? `Its ${megabytes(bytes)} fit “${name}”.`
                : `“${name}” takes ${megabytes(mostBytes)}, and it has ${megabytes(bytes)}.`,
          },
    captions: captionsRequired
      ? {
          fits: isCaptioned,
          sentence: isCaptioned
            ? `It has captions, as “${name}” wants.`
            : `“${name}” takes no film without captions, and it has none: write them in Words.`,
        }
      : null,
  };
};
