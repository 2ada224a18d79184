/** Quietest level told apart from silence, dBFS. */
export const FLOOR_DBFS = -100;

/** Amplitude (1 is full scale) → dBFS; silence reads {@link FLOOR_DBFS}. */
export const toDbfs = (amplitude: number): number =>
  amplitude > 0 ? Math.max(FLOOR_DBFS, 20 * Math.log10(amplitude)) : FLOOR_DBFS;

/** dBFS → amplitude (1 is full scale). */
export const fromDbfs = (dbfs: number): number => 10 ** (dbfs / 20);

/** Level of a block of samples. */
export interface Level {
  /** Root mean square, dBFS. */
  readonly rmsDbfs: number;
  /** Largest sample, dBFS. */
  readonly peakDbfs: number;
}

/** Measures a block of samples of one channel, full scale ±1. An empty block is silent. */
export const levelOf = (samples: Float32Array): Level => {
  let sum = 0;
  let peak = 0;
  // By index: going over them with an iterator makes an object of each, which is most of a recorder's garbage.
  for (let index = 0; index < samples.length; index++) {
    const sample = samples[index]!;
    sum += sample * sample;
    const size = Math.abs(sample);
    if (size > peak) peak = size;
  }
  return {
    rmsDbfs: toDbfs(samples.length > 0 ? Math.sqrt(sum / samples.length) : 0),
    peakDbfs: toDbfs(peak),
  };
};

/** What a level means for a voice. `nothing`: the microphone gives no sound at all. */
export type LevelZone = 'nothing' | 'too-quiet' | 'right' | 'too-loud';

/** Borders of the zones. A digital microphone that is muted gives exact zeros; a live one hisses above −85. */
export const ZONE_BORDERS = { nothingDbfs: -85, quietDbfs: -42, loudPeakDbfs: -1.5 } as const;

/** The zone of a level held over the last second or so (not of a single block: speech has pauses). */
export const zoneOf = ({ rmsDbfs, peakDbfs }: Level): LevelZone => {
  if (peakDbfs < ZONE_BORDERS.nothingDbfs) return 'nothing';
  if (peakDbfs > ZONE_BORDERS.loudPeakDbfs) return 'too-loud';
  return rmsDbfs < ZONE_BORDERS.quietDbfs ? 'too-quiet' : 'right';
};

/** The loudest of some levels, as a meter holds it. */
export const loudest = (levels: readonly Level[]): Level => ({
  rmsDbfs: Math.max(FLOOR_DBFS, ...levels.map((level) => level.rmsDbfs)),
  peakDbfs: Math.max(FLOOR_DBFS, ...levels.map((level) => level.peakDbfs)),
});
