import type { Us } from './us';

/**
 * The one clock of a take: recorded time runs from the start to the stop and stands still while
 * paused. Told of start, pause and resume in common-clock µs, it turns common-clock times of frames
 * and samples into recorded time.
 */
export class TakeClock {
  /** Stretches in which recorded time ran; the last one may be open. */
  readonly #running: { fromUs: Us; toUs: Us | null; recordedUs: Us }[] = [];

  /** @throws RangeError when it has been started before. */
  start(atUs: Us): void {
    if (this.#running.length > 0) throw new RangeError('This take has already started.');
    this.#running.push({ fromUs: atUs, toUs: null, recordedUs: 0 });
  }

  /** Stops recorded time; a second pause in a row changes nothing. */
  pause(atUs: Us): void {
    const last = this.#running.at(-1);
    if (last && last.toUs === null) last.toUs = Math.max(last.fromUs, atUs);
  }

  /** Lets recorded time run on from where it stood. */
  resume(atUs: Us): void {
    const last = this.#running.at(-1);
    if (!last || last.toUs === null) return;
    this.#running.push({
      fromUs: Math.max(atUs, last.toUs),
      toUs: null,
      recordedUs: last.recordedUs + last.toUs - last.fromUs,
    });
  }

  /** Recorded time of a common-clock time, or null when it lies before the start or in a pause. */
  recordedAt(atUs: Us): Us | null {
    for (let index = this.#running.length - 1; index >= 0; index--) {
      const stretch = this.#running[index]!;
      if (atUs >= stretch.fromUs && (stretch.toUs === null || atUs < stretch.toUs)) {
        return stretch.recordedUs + atUs - stretch.fromUs;
      }
    }
    return null;
  }

  /** Recorded time that has passed by a common-clock time; stands still in pauses. */
  elapsedAt(atUs: Us): Us {
    let elapsed = 0;
    for (const stretch of this.#running) {
      if (atUs <= stretch.fromUs) break;
      elapsed = stretch.recordedUs + Math.min(atUs, stretch.toUs ?? atUs) - stretch.fromUs;
    }
    return elapsed;
  }
}
