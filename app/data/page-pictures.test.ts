import { PagePictures } from './page-pictures';

const page = (number: number) => ({ content: 'a'.repeat(64), page: number, aspect: 16 / 9 });

/** A store with pictures of a shape of 16 to 9, which come when they are let. */
const made = () => {
  const asked: string[] = [];
  const waiting: { address: string; give: () => void; refuse: () => void }[] = [];
  const closed: number[] = [];
  const pictures = new PagePictures(
    (address) =>
      new Promise((resolve, reject) => {
        asked.push(address);
        const width = Number(/width=(\d+)/.exec(address)![1]);
        const image = { width, height: (width * 9) / 16, close: () => closed.push(width) };
        waiting.push({
          address,
          give: () => resolve(image as unknown as ImageBitmap),
          refuse: () => reject(new Error('away')),
        });
      }),
  );
  const answer = async (how: 'give' | 'refuse' = 'give') => {
    waiting.splice(0).forEach((one) => one[how]());
    await new Promise((resolve) => setTimeout(resolve, 0));
  };
  return { pictures, asked, closed, answer };
};

it('fetches a picture once, in the least width that is sharp, and tells when it has come', async () => {
  const { pictures, asked, answer } = made();
  let told = 0;
  pictures.onCome(() => told++);
  expect(pictures.of(page(3), 800)).toBeUndefined();
  expect(pictures.of(page(3), 900)).toBeUndefined();
  expect(asked).toEqual([`/api/pages/${'a'.repeat(64)}/3?width=960`]);
  await answer();
  expect(told).toBe(1);
  expect(pictures.of(page(3), 900)).toMatchObject({ widthPx: 960, heightPx: 540 });
});

it('shows what it has until a sharper one is there', async () => {
  const { pictures, asked, answer } = made();
  pictures.ahead(page(0), 400);
  await answer();
  expect(pictures.of(page(0), 1_900)?.widthPx).toBe(480);
  expect(asked).toHaveLength(2);
  await answer();
  expect(pictures.of(page(0), 1_900)?.widthPx).toBe(1920);
  // Nearer than any is made: the largest.
  expect(pictures.of(page(0), 9_000)?.widthPx).toBe(1920);
  await answer();
  expect(pictures.of(page(0), 9_000)?.widthPx).toBe(3840);
});

it('holds the last ones used, and lets go of the others', async () => {
  const { pictures, closed, answer } = made();
  for (let number = 0; number < 14; number++) {
    pictures.ahead(page(number), 1_920);
    await answer();
    // The first is looked at again and again.
    pictures.of(page(0), 1_920);
  }
  expect(closed.length).toBeGreaterThan(0);
  expect(pictures.of(page(0), 1_920)).toBeDefined();
  expect(pictures.of(page(1), 1_920)).toBeUndefined();
});

it('says when a page can’t be had, and asks again after a while', async () => {
  const { pictures, asked, answer } = made();
  pictures.of(page(0), 400);
  await answer('refuse');
  expect(pictures.lacking.view()).toBe(true);
  pictures.of(page(0), 400);
  expect(asked).toHaveLength(1);
  const clock = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 2_500);
  pictures.of(page(0), 400);
  clock.mockRestore();
  expect(asked).toHaveLength(2);
  await answer();
  expect(pictures.lacking.view()).toBe(false);
});
