import type { Match, Pictures } from './match';
import type { PointerKind } from './shapes';
import { taught, templatesFor, type Template } from './template';

/** A pointer's own look is learnt from so many places. */
const LESSONS = [5, 15, 40];
/** How close two scales are that a screen shows its shapes at (natural logarithm of one by the other). */
const ALIKE = 0.08;

interface Lesson {
  readonly template: Template;
  count: number;
  /** Of each of its cells, over the places that it was seen at. */
  readonly sums: Float64Array;
}

/** The shapes that a screen may have, and what has been learnt of its own. */
export class KnownShapes {
  readonly #all: readonly Template[];
  readonly #lessons = new Map<PointerKind, Lesson>();
  /** Those that have been seen to be this screen's; null before any was. */
  known: readonly Template[] | null;

  /** @param widthPx of the pictures */
  constructor(widthPx: number, known: readonly Template[] | null) {
    this.#all = templatesFor(widthPx);
    this.known = known;
  }

  /** What is to be looked for. */
  get sought(): readonly Template[] {
    return this.known ?? this.#all;
  }

  /** From now on this is looked for, and what the same screen shows in its place. */
  know(template: Template): void {
    if (template.shape.thin || this.known?.includes(template)) return;
    const { scale, shape } = template;
    const others = this.#all.filter(
      (one) => Math.abs(Math.log(one.scale / scale)) < ALIKE && one.shape.kind !== shape.kind,
    );
    this.known = [template, ...others];
  }

  /** Learns what a shape looks like on this screen, from where it has just come to. @returns what it is known as from now on */
  learn({ template, x, y }: Match, { now, ground, widthPx }: Pictures): Template {
    const { kind, thin } = template.shape;
    if (!this.known?.includes(template)) return template;
    let lesson = this.#lessons.get(kind);
    if (lesson?.template !== template) {
      lesson = { template, count: 0, sums: new Float64Array(template.cells.length) };
      this.#lessons.set(kind, lesson);
    }
    const at = y * widthPx + x;
    for (let cell = 0; cell < lesson.sums.length; cell++) {
      const pixel = at + template.offsets[cell]!;
      lesson.sums[cell]! += thin ? Math.abs(now[pixel]! - ground[pixel]!) : now[pixel]!;
    }
    lesson.count++;
    if (!LESSONS.includes(lesson.count)) return template;
    const { count, sums } = lesson;
    const values = Array.from(sums, (sum) => sum / count);
    const better = taught(template, values, widthPx);
    this.known = this.known.map((one) => (one === template ? better : one));
    this.#lessons.set(kind, { ...lesson, template: better });
    return better;
  }
}
