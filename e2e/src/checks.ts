/** What every screen is held to. */
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** What breaks a rule of WCAG 2.2 AA, or good practice, as far as a machine can tell: the rule, and where. */
export const violations = async (page: Page): Promise<[rule: string, html: string[]][]> => {
  const found = await new AxeBuilder({ page }).withTags(RULES).analyze();
  return found.violations.map(({ id, nodes }) => [
    id,
    nodes.slice(0, 3).map((node) => node.html.slice(0, 160)),
  ]);
};

/** By how much a page is wider than the screen, px: it must never be pushed sideways. */
export const overhang = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

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
