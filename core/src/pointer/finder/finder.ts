import type { Us } from '../../time/us';
import { FINDER_VERSION, type FoundPointer } from '../found';
import { BLOCK, Changes, STEP } from './changes';
import { bestIn, scoreAt, type Match, type Pictures } from './match';
import { PressFinder } from './presses';
import type { PointerKind } from './shapes';
import { between, taught, templatesFor, type Template } from './template';

/** A shape that has just come has to fit so well, and one that is followed so well. */
const COMES = 0.8;
const STAYS = 0.66;
/** Far from where it is expected it has to fit better than that. */
const FAR = 0.74;
/** The same of a shape as the screen itself has shown it. */
const STAYS_KNOWN = 0.72;
const FAR_KNOWN = 0.84;
/** A shape at one of the scales that are tried fits as well as this, if it fits well at one between. */
const LIKELY = 0.72;
const CLOSELY = 0.82;
/** So many that are likely are looked at closely. */
const CLOSELY_AT_MOST = 5;
/** How far something has to have moved to be a pointer, and in how many pictures it has to have been seen, pixels. */
const MOVED = 12;
const SEEN = 3;
/** So many pictures a pointer may be out of sight and still be the same. */
const OUT_OF_SIGHT = 5;
const RIVAL_OUT_OF_SIGHT = 2;
/** For so few it is taken to have gone straight on. */
const BRIDGED = 2;
/** So much of the picture may have changed for what lies under a pointer to be known, of all blocks. */
const LITTLE = 0.06;
/** So many places are looked at in each picture for something new, of all shapes together. */
const PLACES = 90_000;
/** So few blocks are searched at once: a pointer that moves changes no more. */
const FEW = 24;
/** By how much better something that has come has to fit than what was there before. */
const COME = 0.12;
/** A pointer's own look is learnt from so many places. */
const LESSONS = [5, 15, 40];
/** By so much its surroundings have to fit better that way than the other, to be said to have moved along or not. */
const ALONG = 0.8;
/** How far a thin shape reaches from the block that it is looked for in, at most, pixels. */
const REACH = 2 * BLOCK;
/** How wide a ring round it is compared, pixels. */
const RING = 13;
/** So much round it may be its shadow: that says nothing. */
const SHADOW = 8;
/** So many pixels of it have to be seen, and so far off they have to be in the mean where they don't fit, of 255. */
const LEAST_RING = 60;
const EVEN_RING = 4;
/** What its moves have to say for it to be one; what proves it; and what is too much against it. */
const LIKE_ONE = 4;
const PROVEN = 10;
const UNLIKE = -4;
/** So good a fit isn't compared with others. */
const GOOD = 0.86;
/** How far round the place that it is expected at a pointer is looked for, pixels; and how much further when it was quick. */
const ROUND = 14;
const WIDE = 36;
const FURTHER = 1.3;
const FURTHEST = 220;

interface Sample {
  readonly atUs: Us;
  readonly x: number;
  readonly y: number;
  readonly score: number;
}

/** Something that may be a pointer, followed from picture to picture. */
interface Trail {
  readonly samples: Sample[];
  at: Match;
  /** How far it went from the last picture to this one, pixels. */
  step: { x: number; y: number };
  moved: number;
  /** What its moves say for its being a pointer. */
  proof: number;
  /** Pictures since it was seen last, and when it was last where it was. */
  unseen: number;
  seenUs: Us;
}

/** Whether a place lies in what a ring goes round. */
const isWithin = (x: number, y: number, wide: number, high: number): boolean =>
  x >= RING - SHADOW &&
  x <= wide - RING + SHADOW &&
  y >= RING - SHADOW &&
  y <= high - RING + SHADOW;

interface Lesson {
  readonly template: Template;
  count: number;
  /** Of each of its cells, over the places that it was seen at. */
  readonly sums: Float64Array;
}

type Rect = readonly [left: number, top: number, right: number, bottom: number];

interface Run {
  readonly samples: readonly Sample[];
  readonly untilUs: Us;
}

/**
 * Finds the pointer in pictures of a screen, one after the other: a small thing of a known shape that moves. Shapes are
 * told by correlation over their own pixels (J. P. Lewis, “Fast Normalized Cross-Correlation”, 1995, for the measure);
 * only what has changed from one picture to the next is looked at, and what has never moved is no pointer.
 */
export class PointerFinder {
  readonly #pictures: { widthPx: number; heightPx: number; now: Uint8Array; ground: Uint8Array };
  #before: Uint8Array;
  readonly #changes: Changes;
  readonly #all: readonly Template[];
  /** Those that have been seen to be this screen's. */
  #known: readonly Template[] | null = null;
  #main: Trail | null = null;
  #rival: Trail | null = null;
  readonly #runs: Run[] = [];
  readonly #presses: PressFinder;
  readonly #times: Us[] = [];
  #turn = 0;
  /** The picture for which the ground of each block was seen. */
  readonly #grounded: Int32Array;
  /** Blocks that something that is followed lies in. */
  readonly #held: Uint8Array;
  /** Blocks of which the ground was seen while nobody knew where the pointer was. */
  readonly #doubtful: Uint8Array;
  /** What each kind of shape has been seen to look like. */
  readonly #lessons = new Map<PointerKind, Lesson>();

  /**
   * @param widthPx,heightPx of the pictures, both divided by BLOCK without rest
   * @param known what another one has learnt of the same screen
   */
  constructor(widthPx: number, heightPx: number, known: readonly Template[] | null = null) {
    this.#known = known;
    const empty = () => new Uint8Array(widthPx * heightPx);
    this.#pictures = { widthPx, heightPx, now: empty(), ground: empty() };
    this.#before = empty();
    this.#changes = new Changes(widthPx, heightPx);
    this.#all = templatesFor(widthPx);
    this.#grounded = new Int32Array(this.#changes.pixels.length);
    this.#held = new Uint8Array(this.#changes.pixels.length);
    this.#doubtful = new Uint8Array(this.#changes.pixels.length).fill(1);
    this.#presses = new PressFinder(this.#changes);
  }

  /** Looks at the next picture. @param luma brightness, row by row; it may be used for something else afterwards */
  next(luma: Uint8Array, atUs: Us): void {
    const { now } = this.#pictures;
    this.#pictures.now = this.#before;
    this.#before = now;
    this.#pictures.now.set(luma);
    const first = this.#times.length === 0;
    this.#times.push(atUs);
    if (first) return;
    this.#changes.look(this.#before, this.#pictures.now);
    if (this.#changes.count > 0) this.#look(atUs);
    else this.#rest(atUs);
    this.#presses.next(this.#main?.unseen === 0 ? this.#main.at : null, atUs);
    this.#keepGround();
  }

  /** What has been learnt of this screen's pointer; null before any was found. */
  get known(): readonly Template[] | null {
    return this.#known;
  }

  /** What was found. @param endUs where the pictures end */
  finish(endUs: Us): FoundPointer {
    this.#end(this.#main, endUs);
    this.#main = null;
    const { widthPx } = this.#pictures;
    const inWidths = (value: number) => Math.round((value / widthPx) * 1e5) / 1e5;
    const sureUs = this.#runs.reduce(
      (sum, { samples, untilUs }) => sum + untilUs - samples[0]!.atUs,
      0,
    );
    return {
      version: FINDER_VERSION,
      runs: this.#runs.map(({ samples, untilUs }) => ({
        untilUs,
        moves: samples.map(({ atUs, x, y, score }) => ({
          ...{ atUs, x: inWidths(x), y: inWidths(y) },
          certainty: Math.round(Math.min(1, score) * 100) / 100,
        })),
      })),
      presses: this.#presses.found.map(({ atUs, x, y }) => ({
        ...{ atUs, x: inWidths(x), y: inWidths(y) },
      })),
      sureShare: endUs > 0 ? Math.min(1, sureUs / endUs) : 0,
    };
  }

  /** Nothing has changed: all is where it was, and what isn't seen has gone. */
  #rest(atUs: Us): void {
    for (const trail of [this.#main, this.#rival]) {
      if (trail?.unseen === 0) trail.seenUs = atUs;
      else if (trail) trail.unseen++;
    }
    this.#letGo();
  }

  /** Lets go of what has been out of sight for too long. */
  #letGo(): void {
    if (this.#main && this.#main.unseen > OUT_OF_SIGHT) {
      this.#end(this.#main, null);
      this.#main = null;
    }
    if (this.#rival && this.#rival.unseen > RIVAL_OUT_OF_SIGHT) this.#rival = null;
  }

  #look(atUs: Us): void {
    if (this.#known && this.#littleHas) this.#seeGround();
    const main = this.#main;
    if (main) this.#follow(main, atUs);
    if (main && main.proof <= UNLIKE) this.#main = null;
    this.#letGo();
    // While it is seen to move, nothing else can be it.
    if (main?.unseen === 0 && main.seenUs === atUs && main.samples.at(-1)!.atUs === atUs) {
      this.#rival = null;
      return;
    }
    if (this.#rival) this.#follow(this.#rival, atUs);
    this.#letGo();
    this.#rival ??= this.#spawn(atUs);
    if (this.#rival && this.#isPointer(this.#rival)) {
      this.#end(this.#main, this.#rival.samples[0]!.atUs);
      this.#main = this.#rival;
      this.#rival = null;
      this.#know(this.#main.at.template);
    }
  }

  /** From now on this is looked for, and what the same screen shows in its place. */
  #know(template: Template): void {
    if (template.shape.thin || this.#known?.includes(template)) return;
    const { scale, shape } = template;
    const others = this.#all.filter(
      (one) => Math.abs(Math.log(one.scale / scale)) < 0.08 && one.shape.kind !== shape.kind,
    );
    this.#known = [template, ...others];
  }

  /** Learns what a pointer looks like on this screen, from where it has just come to. */
  #learn({ template, x, y, score }: Match): void {
    const { kind, thin } = template.shape;
    if (score < (thin ? STAYS : COMES) || !this.#known?.includes(template)) return;
    let lesson = this.#lessons.get(kind);
    if (lesson?.template !== template) {
      lesson = { template, count: 0, sums: new Float64Array(template.cells.length) };
      this.#lessons.set(kind, lesson);
    }
    const { now, ground, widthPx } = this.#pictures;
    const at = y * widthPx + x;
    for (let cell = 0; cell < lesson.sums.length; cell++) {
      const pixel = at + template.offsets[cell]!;
      lesson.sums[cell]! += thin ? Math.abs(now[pixel]! - ground[pixel]!) : now[pixel]!;
    }
    lesson.count++;
    if (!LESSONS.includes(lesson.count)) return;
    const { count, sums } = lesson;
    const better = taught(
      template,
      Array.from(sums, (sum) => sum / count),
      widthPx,
    );
    this.#known = this.#known.map((one) => (one === template ? better : one));
    this.#lessons.set(kind, { ...lesson, template: better });
    for (const trail of [this.#main, this.#rival]) {
      if (trail?.at.template === template) trail.at = { ...trail.at, template: better };
    }
  }

  /** Looks for something that is followed. */
  #follow(trail: Trail, atUs: Us): void {
    const { at } = trail;
    if (trail.unseen === 0 && !this.#touched(at)) {
      trail.seenUs = atUs;
      trail.step = { x: 0, y: 0 };
      return;
    }
    const stays = scoreAt(at.template, at.x, at.y, this.#pictures);
    const found = this.#near(trail, stays);
    if (found) {
      const step = { x: found.x - at.x, y: found.y - at.y };
      trail.moved += Math.hypot(step.x, step.y);
      trail.step = trail.unseen === 0 ? step : { x: 0, y: 0 };
      this.#put(trail, found, atUs);
      const { unseen } = trail;
      trail.at = found;
      trail.unseen = 0;
      trail.seenUs = atUs;
      if (found.x !== at.x || found.y !== at.y) {
        // What has been proven stays so, even where it happens to go the way of what lies under it.
        if (unseen === 0) this.#prove(trail, this.#proofOf(at, found));
        if (trail === this.#main) this.#learn(found);
      } else if (this.#restsAlone(found)) this.#prove(trail, 1);
    } else {
      trail.unseen++;
    }
  }

  #prove(trail: Trail, by: number): void {
    if (trail.proof < PROVEN) trail.proof = Math.max(UNLIKE - 2, trail.proof + by);
  }

  /** Puts down where something is now, if it isn't where it was. */
  #put(trail: Trail, { x, y, score }: Match, atUs: Us): void {
    const { samples, unseen, seenUs } = trail;
    const last = samples.at(-1)!;
    if (last.x === x && last.y === y && unseen === 0) return;
    if (unseen > BRIDGED && trail === this.#main) {
      // Nobody knows which way it went.
      this.#keep(trail, seenUs);
      samples.length = 0;
    } else {
      // It rested until it was seen there last.
      if (last.atUs < seenUs) samples.push({ ...last, atUs: seenUs });
      for (let one = 1; one <= unseen; one++) {
        const part = one / (unseen + 1);
        samples.push({
          atUs: this.#times.at(one - unseen - 2)!,
          x: last.x + (x - last.x) * part,
          y: last.y + (y - last.y) * part,
          score: Math.min(last.score, score) / 2,
        });
      }
    }
    samples.push({ atUs, x, y, score });
  }

  /** Whether something of a shape's place has changed. */
  #touched({ x, y, template: { left, right, up, down } }: Match): boolean {
    return this.#changes.within(x - left, y - up, x + right, y + down) > 0;
  }

  /** The place at which something that is followed lies now; null where it isn't seen. */
  #near({ at, step, unseen }: Trail, stays: number): Match | null {
    const { template } = at;
    if (stays > GOOD) return { ...at, score: stays };
    const known = template.isTaught && !template.shape.thin;
    const least = Math.max(known ? STAYS_KNOWN : STAYS, stays + 0.04);
    const [x, y] = [Math.round(at.x + step.x), Math.round(at.y + step.y)];
    const round = (by: number) =>
      [
        ...[Math.min(x, at.x) - by, Math.min(y, at.y) - by],
        ...[Math.max(x, at.x) + by, Math.max(y, at.y) + by],
      ] as unknown as Rect;
    const come = (match: Match | null) => (match && this.#hasCome(match) ? match : null);
    const close = come(
      this.#bestChanged([template], [x - ROUND, y - ROUND, x + ROUND, y + ROUND], least),
    );
    if (close && close.score > COMES) return close;
    const quick = Math.hypot(step.x, step.y);
    const far = Math.round(Math.min(FURTHEST, WIDE + FURTHER * quick + unseen * WIDE));
    const leastFar = Math.max(known ? FAR_KNOWN : FAR, close?.score ?? least);
    const same = come(this.#bestChanged([template], round(far), leastFar)) ?? close;
    if (same && same.score > COMES) return same;
    const better = (same?.score ?? 0) + 0.06;
    const other = come(this.#bestOther(template, round(WIDE), Math.max(least, better)));
    const still: Match | null = stays >= STAYS ? { ...at, score: stays } : null;
    if (other ?? same ?? still) return other ?? same ?? still;
    // It may have gone far.
    return this.#littleHas && this.#known
      ? come(this.#bestChanged(this.#known, this.#everywhere(), COMES))
      : null;
  }

  /** Another shape that this screen has: a filled one has to fit as well as something new, a thin one is told by its coming. */
  #bestOther(template: Template, rect: Rect, least: number): Match | null {
    const others = (this.#known ?? []).filter((one) => one !== template && this.#canTell(one));
    const [thin, filled] = [true, false].map((is) => others.filter((one) => one.shape.thin === is));
    const best = this.#bestChanged(filled!, rect, Math.max(COMES, least));
    return this.#bestChanged(thin!, rect, best?.score ?? least) ?? best;
  }

  /** Whether something wasn't there before. */
  #hasCome({ template, x, y, score }: Match): boolean {
    if (template.shape.thin) return !this.#isDoubtful(template, x, y);
    return scoreAt(template, x, y, { ...this.#pictures, now: this.#before }) < score - COME;
  }

  /** Whether a pointer may be in what is taken for the ground at a place. */
  #isDoubtful({ left, right, up, down }: Template, x: number, y: number): boolean {
    let doubtful = false;
    this.#changes.forBlocks(x - left, y - up, x + right, y + down, (block) => {
      if (this.#doubtful[block]) doubtful = true;
    });
    return doubtful;
  }

  /** What is thin is told by what has come on the ground, which has to be known. */
  #canTell({ shape }: Template): boolean {
    return !shape.thin || this.#littleHas;
  }

  /** Whether so little has changed that all of it can be searched. */
  get #littleHas(): boolean {
    return this.#changes.count <= LITTLE * this.#changes.pixels.length;
  }

  #everywhere(): Rect {
    return [0, 0, this.#pictures.widthPx - 1, this.#pictures.heightPx - 1];
  }

  /** The best of some shapes in the blocks of a rectangle that have changed. */
  #bestChanged(
    templates: readonly Template[],
    [left, top, right, bottom]: Rect,
    least: number,
    pictures: Pictures = this.#pictures,
  ): Match | null {
    const { columns, rows, pixels } = this.#changes;
    let best = null as Match | null;
    const lastRow = Math.min(rows - 1, (bottom / BLOCK) | 0);
    const lastColumn = Math.min(columns - 1, (right / BLOCK) | 0);
    for (let row = Math.max(0, (top / BLOCK) | 0); row <= lastRow; row++) {
      for (let column = Math.max(0, (left / BLOCK) | 0); column <= lastColumn; column++) {
        if (pixels[row * columns + column] === 0) continue;
        const first = column;
        while (column < lastColumn && pixels[row * columns + column + 1]! > 0) column++;
        // The very tip of it may lie where too little has changed.
        const part = [
          Math.max(left, first * BLOCK - 2),
          Math.max(top, row * BLOCK - 2),
          Math.min(right, column * BLOCK + BLOCK - 1),
          Math.min(bottom, row * BLOCK + BLOCK - 1),
        ] as const;
        best = bestIn(templates, part, pictures, best?.score ?? least) ?? best;
      }
    }
    return best;
  }

  /** Something that may be a pointer, where the picture has changed. */
  #spawn(atUs: Us): Trail | null {
    const templates = (this.#known ?? this.#all).filter(
      (one) => this.#canTell(one) && (this.#known !== null || !one.shape.thin),
    );
    const { count } = this.#changes;
    const all = count <= FEW || count * BLOCK * BLOCK * templates.length <= PLACES;
    const least = this.#known ? COMES : LIKELY;
    const likely = all
      ? templates.map((one) => this.#bestChanged([one], this.#everywhere(), least))
      : this.#searchPart(templates, least);
    const found = likely
      .filter((one) => one !== null)
      .sort((one, other) => other.score - one.score)
      .slice(0, CLOSELY_AT_MOST)
      .map((one) => (this.#known ? one : this.#closer(one)))
      .filter((one) => one !== null && this.#hasCome(one))
      .reduce((best, one) => (best && best.score >= one!.score ? best : one), null);
    if (!found) return null;
    const sample = { atUs, x: found.x, y: found.y, score: found.score };
    const trail: Trail = {
      ...{ samples: [sample], at: found, step: { x: 0, y: 0 } },
      ...{ moved: 0, proof: 0, unseen: 0, seenUs: atUs },
    };
    // Where it came from: it lay there since that place changed last.
    const before = { ...this.#pictures, now: this.#before };
    const was = all ? this.#bestChanged([found.template], this.#everywhere(), STAYS, before) : null;
    if (was && Math.hypot(was.x - found.x, was.y - found.y) > 1) {
      const sinceUs = this.#restedSince(was);
      const { x, y, score } = was;
      trail.samples.unshift({ atUs: sinceUs, x, y, score });
      const rested = this.#times.at(-2)!;
      if (sinceUs < rested) trail.samples.splice(1, 0, { atUs: rested, x, y, score });
      trail.step = { x: found.x - x, y: found.y - y };
      trail.moved = Math.hypot(trail.step.x, trail.step.y);
      trail.proof = this.#proofOf(was, found);
    }
    return trail;
  }

  /** The best of the scales between: a shape that is drawn finely fits at its own only. */
  #closer({ x, y, template }: Match): Match | null {
    const { scale } = template;
    const known = between(template, this.#pictures.widthPx);
    const by = Math.ceil(2 * scale);
    return bestIn(known, [x - by, y - by, x + by, y + by], this.#pictures, CLOSELY);
  }

  /** Much has changed: a part of it is searched in each picture, for one shape after the other, the next part in the next. */
  #searchPart(templates: readonly Template[], least: number): (Match | null)[] {
    const { rows, pixels, columns } = this.#changes;
    const [, , right] = this.#everywhere();
    let places = 0;
    const found: (Match | null)[] = [];
    for (let row = 0; row < rows * templates.length && places < PLACES; row++) {
      const at = this.#turn++ % (rows * templates.length);
      const [line, template] = [at % rows, templates[Math.floor(at / rows)]!];
      for (let column = 0; column < columns; column++) {
        if (pixels[line * columns + column]! > 0) places += BLOCK * BLOCK;
      }
      const rect = [0, line * BLOCK, right, line * BLOCK + BLOCK - 1] as const;
      found.push(this.#bestChanged([template], rect, least));
    }
    return found;
  }

  /** Since when what lay at a place until the picture before has lain there. */
  #restedSince({ x, y, template: { left, right, up, down } }: Match): Us {
    // The changes of this very picture have overwritten when it changed before: what holds is at least the last two.
    return this.#times[this.#presses.before(x - left, y - up, x + right, y + down)]!;
  }

  /**
   * What a move says for its being a pointer: what lies round it stood still meanwhile, or fits what was there before
   * better than what came along. What moves as its surroundings do is a part of them.
   */
  #proofOf(from: Match, to: Match): number {
    const { widthPx, heightPx, now } = this.#pictures;
    const before = this.#before;
    const { left, right, up, down } = to.template;
    const [wide, high] = [left + right + 2 * RING, up + down + 2 * RING];
    const isOut = ({ x, y }: Match) =>
      x - left < RING ||
      y - up < RING ||
      x + right + RING >= widthPx ||
      y + down + RING >= heightPx;
    if (isOut(from) || isOut(to)) return 0;
    const isAt = (to.y - up - RING) * widthPx + to.x - left - RING;
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const came = -dy * widthPx - dx;
    let count = 0;
    let still = 0;
    let offStill = 0;
    let offAlong = 0;
    for (let y = 0; y < high; y++) {
      for (let x = 0; x < wide; x++) {
        if (isWithin(x, y, wide, high)) continue;
        // Where it came from, it has gone from, and where it went, it will have come to: that says nothing.
        if (isWithin(x + dx, y + dy, wide, high) || isWithin(x - dx, y - dy, wide, high)) continue;
        const at = isAt + y * widthPx + x;
        const is = now[at]!;
        const stood = Math.abs(before[at]! - is);
        count++;
        if (stood <= STEP) still++;
        offStill += stood;
        offAlong += Math.abs(before[at + came]! - is);
      }
    }
    if (count < LEAST_RING) return 0;
    // Where nothing has changed, nothing has moved along.
    if (offStill > EVEN_RING * count && offAlong < offStill * ALONG) return -2;
    if (still > count * 0.75) return 2;
    // An even ground tells nothing.
    if (Math.max(offStill, offAlong) < EVEN_RING * count) return 0;
    return offStill < offAlong * ALONG ? 1 : 0;
  }

  /** Whether something stays where it is while what lies round it goes on. */
  #restsAlone({ x, y, template: { left, right, up, down } }: Match): boolean {
    const { widthPx, heightPx, now } = this.#pictures;
    let [count, other] = [0, 0];
    for (const row of [y - up - 4, y + down + 4]) {
      if (row < 0 || row >= heightPx) continue;
      for (let at = Math.max(0, x - left); at <= Math.min(widthPx - 1, x + right); at++) {
        count++;
        const pixel = row * widthPx + at;
        if (Math.abs(now[pixel]! - this.#before[pixel]!) > STEP) other++;
      }
    }
    return count > 0 && other > count / 2;
  }

  #isPointer({ samples, moved, proof, at }: Trail): boolean {
    const places = samples.filter(
      ({ x, y }, index) =>
        index === 0 || x !== samples[index - 1]!.x || y !== samples[index - 1]!.y,
    );
    const mean = places.reduce((sum, { score }) => sum + score, 0) / places.length;
    return (
      moved >= MOVED &&
      proof >= LIKE_ONE &&
      places.length >= SEEN &&
      mean >= 0.78 &&
      at.score >= STAYS
    );
  }

  /** Something that was followed is not any more. @param untilUs when another was seen; null: when it was seen last */
  #end(trail: Trail | null, untilUs: Us | null): void {
    if (!trail) return;
    this.#keep(trail, untilUs === null || trail.unseen > 0 ? trail.seenUs : untilUs);
  }

  /** Keeps where a pointer was. */
  #keep({ samples }: Trail, untilUs: Us): void {
    const fromUs = this.#runs.at(-1)?.untilUs ?? 0;
    const kept = samples.filter(({ atUs }) => atUs >= fromUs && atUs <= untilUs);
    if (kept.length > 0 && untilUs > kept[0]!.atUs) this.#runs.push({ samples: kept, untilUs });
  }

  /** Sees to it that the ground round what has changed is there: where no pointer lies it is the picture before. */
  #seeGround(): void {
    const { pixels, columns, picture } = this.#changes;
    for (let block = 0; block < pixels.length; block++) {
      if (pixels[block] === 0) continue;
      const [x, y] = [(block % columns) * BLOCK, Math.floor(block / columns) * BLOCK];
      this.#changes.forBlocks(x - REACH, y - REACH, x + REACH, y + REACH, (near) => {
        if (this.#held[near] === 1 || this.#grounded[near] === picture) return;
        this.#grounded[near] = picture;
        this.#copyGround(near);
      });
    }
  }

  #copyGround(block: number): void {
    const { ground, widthPx } = this.#pictures;
    const { columns } = this.#changes;
    const before = this.#before;
    let from = Math.floor(block / columns) * BLOCK * widthPx + (block % columns) * BLOCK;
    for (let line = 0; line < BLOCK; line++, from += widthPx) {
      for (let at = from; at < from + BLOCK; at++) ground[at] = before[at]!;
    }
  }

  /** Remembers what lies under the pointer: what was there before it came. */
  #keepGround(): void {
    if (this.#changes.count === 0) return;
    const { pixels } = this.#changes;
    const held = this.#held;
    const before = held.slice();
    held.fill(0);
    for (const trail of [this.#main, this.#rival]) {
      if (!trail) continue;
      const { x, y, template } = trail.at;
      const { left, right, up, down } = template;
      this.#changes.forBlocks(x - left - 4, y - up - 4, x + right + 4, y + down + 4, (block) => {
        if (before[block] === 0) this.#copyGround(block);
        held[block] = 1;
      });
    }
    // While it is seen, it is nowhere else.
    const seen = this.#main?.unseen === 0;
    for (let block = 0; block < pixels.length; block++) {
      if (held[block] === 1) continue;
      if (seen) this.#doubtful[block] = 0;
      else if (pixels[block]! > 0) this.#doubtful[block] = 1;
    }
  }
}
