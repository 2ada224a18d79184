import { expect, type Locator, type Page } from '@playwright/test';

/** Counts what a hand does: presses, drags and what is typed, each as one; or every key, when it is keys alone. */
export class Touches {
  readonly #page: Page;
  count = 0;

  constructor(page: Page) {
    this.#page = page;
  }

  /** A press. Waiting until there is something to press is no touch. */
  async press(what: Locator): Promise<void> {
    await expect(what).toBeEnabled({ timeout: 120_000 });
    await what.click();
    this.count++;
  }

  /** Typing into a field, which has to be pressed first: one touch in all, the keys are not counted. */
  async type(field: Locator, text: string): Promise<void> {
    await field.fill(text);
    await field.press('Enter');
    this.count++;
  }

  async drag(what: Locator, byX: number, byY: number): Promise<void> {
    const box = (await what.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await this.#page.mouse.move(x, y);
    await this.#page.mouse.down();
    await this.#page.mouse.move(x + byX, y + byY, { steps: 6 });
    await this.#page.mouse.up();
    this.count++;
  }

  /** One key, so many times. */
  async key(name: string, times = 1): Promise<void> {
    for (let time = 0; time < times; time++) await this.#page.keyboard.press(name);
    this.count += times;
  }

  /** Types over what is in the field that has the focus: one, and Enter. */
  async typeHere(text: string): Promise<void> {
    await this.#page.keyboard.press('Control+A');
    await this.#page.keyboard.type(text);
    this.count++;
    await this.key('Enter');
  }

  /** Goes on with a key until something has the focus. The focus is somewhere in the page at every step. */
  async reach(what: Locator, key = 'Tab', most = 40): Promise<void> {
    for (let tries = 0; tries < most; tries++) {
      if (await isFocused(what)) return;
      await this.key(key);
      expect(await focusIsLost(this.#page), `after ${key} towards ${String(what)}`).toBe(false);
    }
    throw new Error(`${String(what)} isn’t reached with ${most} × ${key}`);
  }
}

const isFocused = (what: Locator): Promise<boolean> =>
  what
    .first()
    .evaluate((element) => element === document.activeElement)
    .catch(() => false);

/** The focus has fallen back to the page itself: who goes by keys begins anew at its top. */
export const focusIsLost = (page: Page): Promise<boolean> =>
  page.evaluate(() => {
    const { activeElement } = document;
    return activeElement === null || activeElement === document.body;
  });
