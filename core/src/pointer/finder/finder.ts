import type { Us } from '../../time/us';
import { FINDER_VERSION, type FoundPointer } from '../found';
import { Changes } from './changes';
import { Ground } from './ground';
import { KnownShapes } from './known-shapes';
import { scoreAt, type Match } from './match';
import { PressFinder } from './presses';
import { Search, type Rect } from './search';
import { proofOf, restsAlone } from './surroundings';
import type { Template } from './template';
import { Trail, type Sample } from './trail';

/** A shape that has just come has to fit so well, and one that is followed so well. */
const COMES = 0.8;
const STAYS = 0.66;
/** Far from where it is expected it has to fit better than that. */
const FAR = 0.74;
/** The same of a shape as the screen itself has shown it. */
const STAYS_KNOWN = 0.72;
const FAR_KNOWN = 0.84;
/** So good a fit isn't compared with others; and by so much another has to be better. */
const GOOD = 0.86;
const BETTER_PLACE = 0.04;
const BETTER_SHAPE = 0.06;
/** A shape at one of the scales that are tried fits as well as this, if it fits well at one between. */
const LIKELY = 0.72;
/** So many that are likely are looked at closely. */
const CLOSELY_AT_MOST = 5;
/** So many pictures a pointer may be out of sight and still be the same. */
const OUT_OF_SIGHT = 5;
const RIVAL_OUT_OF_SIGHT = 2;
/** How far round the place that it is expected at a pointer is looked for, pixels; and how much further when it was quick. */
const ROUND = 14;
const WIDE = 36;
const FURTHER = 1.3;
const FURTHEST = 220;

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
  readonly #pictures;
  readonly #changes: Changes;
  readonly #ground: Ground;
  readonly #search: Search;
  readonly #shapes: KnownShapes;
  readonly #presses: PressFinder;
  /** The pointer; null while nobody knows where it is. */
  #main: Trail | null = null;
  /** Something that may turn out to be it. */
  #rival: Trail | null = null;
  readonly #runs: Run[] = [];
  readonly #times: Us[] = [];

  /**
   * @param widthPx,heightPx of the pictures, both divided by BLOCK without rest
   * @param known what another one has learnt of the same screen
   */
  constructor(widthPx: number, heightPx: number, known: readonly Template[] | null = null) {
    const empty = () => new Uint8Array(widthPx * heightPx);
    this.#pictures = { widthPx, heightPx, now: empty(), before: empty(), ground: empty() };
    this.#changes = new Changes(widthPx, heightPx);
    this.#ground = new Ground(this.#pictures, this.#changes);
    this.#search = new Search(this.#pictures, this.#changes, this.#ground);
    this.#shapes = new KnownShapes(widthPx, known);
    this.#presses = new PressFinder(this.#changes);
  }

  /** Looks at the next picture. @param luma brightness, row by row; it may be used for something else afterwards */
  next(luma: Uint8Array, atUs: Us): void {
    const { now, before } = this.#pictures;
    [this.#pictures.now, this.#pictures.before] = [before, now];
    this.#pictures.now.set(luma);
    const first = this.#times.length === 0;
    this.#times.push(atUs);
    if (first) return;
    this.#changes.look(this.#pictures.before, this.#pictures.now);
    if (this.#changes.count > 0) this.#look(atUs);
    else this.#rest(atUs);
    const seen = this.#main?.unseen === 0;
    this.#presses.next(seen ? this.#main!.at : null, atUs);
    const places = [this.#main, this.#rival].flatMap((trail) => trail?.at ?? []);
    this.#ground.keep(places, seen);
  }

  /** What has been learnt of this screen's pointer; null before any was found. */
  get known(): readonly Template[] | null {
    return this.#shapes.known;
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
    if (this.#shapes.known && this.#search.isLittle) this.#ground.see();
    const main = this.#main;
    if (main) this.#follow(main, atUs);
    if (main?.isUnlike) this.#main = null;
    this.#letGo();
    // While it is seen to move, nothing else can be it.
    if (main?.unseen === 0 && main.samples.at(-1)!.atUs === atUs) {
      this.#rival = null;
      return;
    }
    if (this.#rival) this.#follow(this.#rival, atUs);
    this.#letGo();
    this.#rival ??= this.#spawn(atUs);
    if (this.#rival?.isPointer && this.#rival.at.score >= STAYS) {
      this.#end(this.#main, this.#rival.samples[0]!.atUs);
      this.#main = this.#rival;
      this.#rival = null;
      this.#shapes.know(this.#main.at.template);
    }
  }

  /** Looks for something that is followed. */
  #follow(trail: Trail, atUs: Us): void {
    const { at, unseen } = trail;
    if (unseen === 0 && !this.#touched(at)) return trail.rests(atUs);
    const found = this.#near(trail);
    if (!found) {
      trail.unseen++;
      return;
    }
    const lastUs = trail.seenUs;
    const broken = trail.isAt(found, this.#times, trail === this.#main);
    if (broken) this.#keep(broken, lastUs);
    if (found.x !== at.x || found.y !== at.y) {
      if (unseen === 0) trail.prove(proofOf(at, found, this.#pictures));
      if (trail === this.#main) this.#learn(found);
    } else if (restsAlone(found, this.#pictures)) trail.prove(1);
  }

  #learn(found: Match): void {
    const { template, score } = found;
    if (score < (template.shape.thin ? STAYS : COMES)) return;
    const better = this.#shapes.learn(found, this.#pictures);
    for (const trail of [this.#main, this.#rival]) {
      if (trail?.at.template === template) trail.at = { ...trail.at, template: better };
    }
  }

  /** Whether something of a shape's place has changed. */
  #touched({ x, y, template: { left, right, up, down } }: Match): boolean {
    return this.#changes.within(x - left, y - up, x + right, y + down) > 0;
  }

  /** The place at which something that is followed lies now; null where it isn't seen. */
  #near({ at, step, unseen }: Trail): Match | null {
    const { template } = at;
    const search = this.#search;
    const stays = scoreAt(template, at.x, at.y, this.#pictures);
    if (stays > GOOD) return { ...at, score: stays };
    const known = template.isTaught && !template.shape.thin;
    const least = Math.max(known ? STAYS_KNOWN : STAYS, stays + BETTER_PLACE);
    const [x, y] = [Math.round(at.x + step.x), Math.round(at.y + step.y)];
    const round = (by: number): Rect => [
      ...([Math.min(x, at.x) - by, Math.min(y, at.y) - by] as const),
      ...([Math.max(x, at.x) + by, Math.max(y, at.y) + by] as const),
    ];
    const expected: Rect = [x - ROUND, y - ROUND, x + ROUND, y + ROUND];
    const close = search.come(search.best([template], expected, least));
    if (close && close.score > COMES) return close;
    const quick = Math.hypot(step.x, step.y);
    const far = Math.round(Math.min(FURTHEST, WIDE + FURTHER * quick + unseen * WIDE));
    const leastFar = Math.max(known ? FAR_KNOWN : FAR, close?.score ?? least);
    const same = search.come(search.best([template], round(far), leastFar)) ?? close;
    if (same && same.score > COMES) return same;
    const better = Math.max(least, (same?.score ?? 0) + BETTER_SHAPE);
    const other = search.come(this.#bestOther(template, round(WIDE), better));
    const still: Match | null = stays >= STAYS ? { ...at, score: stays } : null;
    if (other ?? same ?? still) return other ?? same ?? still;
    // It may have gone far.
    return search.isLittle && this.#shapes.known
      ? search.come(search.best(this.#shapes.known, search.everywhere, COMES))
      : null;
  }

  /** Another shape that this screen has: a filled one has to fit as well as something new, a thin one is told by its coming. */
  #bestOther(template: Template, rect: Rect, least: number): Match | null {
    const search = this.#search;
    const others = (this.#shapes.known ?? []).filter(
      (one) => one !== template && search.canTell(one),
    );
    const filled = others.filter(({ shape }) => !shape.thin);
    const thin = others.filter(({ shape }) => shape.thin);
    const best = search.best(filled, rect, Math.max(COMES, least));
    return search.best(thin, rect, best?.score ?? least) ?? best;
  }

  /** Something that may be a pointer, where the picture has changed. */
  #spawn(atUs: Us): Trail | null {
    const search = this.#search;
    const { known, sought } = this.#shapes;
    const templates = sought.filter(
      (one) => search.canTell(one) && (known !== null || !one.shape.thin),
    );
    const found = search
      .bestOfEach(templates, known ? COMES : LIKELY)
      .sort((one, other) => other.score - one.score)
      .slice(0, CLOSELY_AT_MOST)
      .map((one) => search.come(known ? one : search.closer(one)))
      .reduce((best, one) => (one && one.score > (best?.score ?? 0) ? one : best), null);
    if (!found) return null;
    const trail = new Trail(found, atUs);
    // Where it came from: it lay there since that place changed last.
    const was = search.isWhole(templates) ? search.bestBefore(found.template, STAYS) : null;
    if (was && Math.hypot(was.x - found.x, was.y - found.y) > 1) {
      const proof = proofOf(was, found, this.#pictures);
      trail.cameFrom(was, this.#restedSince(was), this.#times.at(-2)!, proof);
    }
    return trail;
  }

  /** Since when what lay at a place until the picture before has lain there. */
  #restedSince({ x, y, template: { left, right, up, down } }: Match): Us {
    // The changes of this very picture have overwritten when it changed before: what holds is at least the last two.
    return this.#times[this.#presses.before(x - left, y - up, x + right, y + down)]!;
  }

  /** Something that was followed is not any more. @param untilUs when another was seen; null: when it was seen last */
  #end(trail: Trail | null, untilUs: Us | null): void {
    if (!trail) return;
    const { samples, seenUs, unseen } = trail;
    this.#keep(samples, untilUs === null || unseen > 0 ? seenUs : untilUs);
  }

  /** Keeps where a pointer was. */
  #keep(samples: readonly Sample[], untilUs: Us): void {
    const fromUs = this.#runs.at(-1)?.untilUs ?? 0;
    const kept = samples.filter(({ atUs }) => atUs >= fromUs && atUs <= untilUs);
    if (kept.length > 0 && untilUs > kept[0]!.atUs) this.#runs.push({ samples: kept, untilUs });
  }
}
