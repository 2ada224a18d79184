/** Sound of a film: samples a second, and samples in a packet of AAC (ISO/IEC 14496-3, frameLengthFlag 0). */
export const FILM_SOUND_RATE = 48_000;
export const SOUND_PACKET = 1_024;
