/** What every screen is held to. */
import type axe from 'axe-core';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import { PHONE, WIDE } from './browser';

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
/** Rules that look at colours. */
const OF_COLOURS = ['color-contrast', 'link-in-text-block'];

const MOST_LOOKS = 5;

/** The minified build: its source is sent to every page. */
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * Looks through a page and the frames in it, and gives what is wrong alone: telling all that is right as well takes
 * ten times as long.
 */
const lookOnce = async (page: Page, only: axe.RunOnly): Promise<axe.Result[]> => {
  for (const frame of page.frames()) {
    if (await frame.evaluate(() => 'axe' in window)) continue;
    await frame.evaluate(AXE);
    // The frames tell the page what they found, from wherever they are.
    await frame.evaluate(() => window.axe.configure({ allowedOrigins: ['<unsafe_all_origins>'] }));
  }
  return page.evaluate(
    async (runOnly) =>
      (await window.axe.run(document, { runOnly, resultTypes: ['violations'] })).violations,
    only,
  );
};

/** Runs axe, and again if a frame navigated during the run. */
const look = async (page: Page, only: axe.RunOnly): Promise<axe.Result[]> => {
  for (let looks = 1; ; looks++) {
    try {
      return await lookOnce(page, only);
    } catch (error) {
      const hasGone = /context was destroyed|frame was detached/i.test(String(error));
      if (!hasGone || looks === MOST_LOOKS) throw error;
      await page.waitForLoadState();
    }
  }
};

declare global {
  interface Window {
    axe: typeof axe;
  }
}

/**
 * Waits until the page has been drawn anew: a change of the light is told to it then, and not before. A page in which
 * nothing moves is not drawn for seconds by a browser without a monitor.
 */
export const drawn = (page: Page): Promise<void> =>
  page.evaluate(
    () =>
      new Promise<void>((resolve) =>
        requestAnimationFrame(() => requestAnimationFrame(() => resolve())),
      ),
  );

/**
 * What breaks a rule of WCAG 2.2 AA, or good practice, as far as a machine can tell, in the light and in the dark: the
 * light, the rule, and where.
 */
export const violations = async (
  page: Page,
): Promise<[light: string, rule: string, html: string[]][]> => {
  const all: [light: string, rule: string, html: string[]][] = [];
  for (const colorScheme of ['dark', 'light'] as const) {
    await page.emulateMedia({ colorScheme });
    await drawn(page);
    // What differs by the light alone; all else is the same in both.
    const only: axe.RunOnly =
      colorScheme === 'dark'
        ? { type: 'rule', values: OF_COLOURS }
        : { type: 'tag', values: RULES };
    let found = await look(page, only);
    // The light may be changing still, on a machine that is busy: what is wrong stays wrong.
    for (let again = 0; found.length > 0 && again < MOST_LOOKS; again++) {
      await page.waitForTimeout(700);
      found = await look(page, only);
    }
    for (const { id, nodes } of found) {
      all.push([colorScheme, id, nodes.slice(0, 3).map((node) => node.html.slice(0, 160))]);
    }
  }
  return all;
};

/** By how much a page is wider than the screen, px: it must never be pushed sideways. */
export const overhang = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

/**
 * What is pressed and is too small for a thumb: less than 44 px either way, with the label that belongs to it. Links
 * that stand in a sentence are as large as its words (WCAG 2.2, 2.5.8, "inline").
 */
export const tooSmall = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const LEAST_PX = 44;
    const pressed = document.querySelectorAll<HTMLElement>(
      'a[href], button, input, textarea, select, [role="button"], [role="radio"], [role="slider"], [role="menuitem"]',
    );
    return [...pressed].flatMap((one) => {
      if (one.classList.contains('skip-link') || one.offsetParent === null) return [];
      const boxes = [one, one.closest('label')].flatMap(
        (part) => part?.getBoundingClientRect() ?? [],
      );
      const large = boxes.some(
        ({ width, height }) => width >= LEAST_PX - 0.5 && height >= LEAST_PX - 0.5,
      );
      const { width, height } = boxes[0]!;
      return large || width * height === 0
        ? []
        : `${one.getAttribute('aria-label') ?? one.textContent} ${Math.round(width)}×${Math.round(height)}`;
    });
  });

/** Controls that lie outside the screen horizontally, where no scrolling reaches them. */
export const beside = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const scrolls = (part: HTMLElement | null): boolean =>
      part !== null &&
      ((/auto|scroll/.test(getComputedStyle(part).overflowX) &&
        part.scrollWidth > part.clientWidth + 1) ||
        scrolls(part.parentElement));
    const pressed = document.querySelectorAll<HTMLElement>(
      'a[href], button, input, textarea, select, [role="button"], [role="radio"], [role="menuitem"]',
    );
    return [...pressed].flatMap((one) => {
      const { left, right, width, height } = one.getBoundingClientRect();
      const isHidden =
        one.classList.contains('skip-link') || one.offsetParent === null || width * height <= 4;
      if (isHidden || (left >= -1 && right <= innerWidth + 1) || scrolls(one.parentElement))
        return [];
      return `${one.getAttribute('aria-label') ?? one.textContent} ${Math.round(left)}–${Math.round(right)} of ${innerWidth}`;
    });
  });

/**
 * Walks over everything that can have the focus and tells what of it something else covers when it has it: who goes
 * by keys would not see where they are.
 */
export const covered = (page: Page): Promise<string[]> =>
  page.evaluate(async () => {
    const found: string[] = [];
    const stops = document.querySelectorAll<HTMLElement>(
      'a[href], button, input, textarea, [tabindex="0"]',
    );
    for (const stop of stops) {
      if (stop.classList.contains('skip-link') || stop.offsetParent === null) continue;
      stop.focus();
      await new Promise((resolve) => requestAnimationFrame(resolve));
      if (document.activeElement !== stop) continue;
      const box = stop.getBoundingClientRect();
      const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
      const top = document.elementFromPoint(
        Math.min(Math.max(x, 1), innerWidth - 1),
        Math.min(Math.max(y, 1), innerHeight - 1),
      );
      if (!top || !(stop.contains(top) || top.contains(stop))) {
        found.push(stop.getAttribute('aria-label') ?? stop.outerHTML.slice(0, 100));
      }
    }
    return found;
  });

/** Runs all checks at the current size. */
export const fine = async (page: Page): Promise<void> => {
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  expect(await beside(page)).toEqual([]);
};

/**
 * Runs all checks at phone and at wide size, in the current state of the page. This way a flow runs at one size only and
 * its states are checked at both.
 */
export const fineAtBothSizes = async (page: Page): Promise<void> => {
  await fine(page);
  const size = page.viewportSize()!;
  await page.setViewportSize(size.width === WIDE.width ? PHONE : WIDE);
  await drawn(page);
  await fine(page);
  await page.setViewportSize(size);
  await drawn(page);
};
