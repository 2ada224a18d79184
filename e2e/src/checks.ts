/** What every screen is held to. */
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What breaks a rule of WCAG 2.2 AA, as far as a machine can tell: the rule, and where. */
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
