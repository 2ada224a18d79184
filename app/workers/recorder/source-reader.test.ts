/** @jest-environment node */
import { SourceReader } from './source-reader';

/** A thing that is lent, as a camera lends its frames: it must be given back. */
class Lent {
  closed = false;
  close() {
    this.closed = true;
  }
}
const source = () => {
  let controller!: ReadableStreamDefaultController<Lent>;
  const stream = new ReadableStream<Lent>({ start: (given) => void (controller = given) });
  return { stream, give: (item: Lent) => controller.enqueue(item), end: () => controller.close() };
};
const breathe = () => new Promise((resolve) => setTimeout(resolve, 5));

it('takes in one after another and says when the source ended by itself', async () => {
  const { stream, give, end } = source();
  const taken: Lent[] = [];
  const reading = new SourceReader<Lent>().read(stream, (item) => void taken.push(item));
  const items = [new Lent(), new Lent()];
  items.forEach(give);
  end();
  expect(await reading).toBe(true);
  expect(taken).toEqual(items);
});

it('lets go of a source when another takes its place, and says that it did not end by itself', async () => {
  const first = source();
  const second = source();
  const reader = new SourceReader<Lent>();
  const taken: Lent[] = [];
  const reading = reader.read(first.stream, () => undefined);
  await breathe();
  const going = reader.read(second.stream, (item) => void taken.push(item));
  expect(await reading).toBe(false);
  const item = new Lent();
  second.give(item);
  second.end();
  expect(await going).toBe(true);
  expect(taken).toEqual([item]);
});

it('takes in nothing after its end', async () => {
  const { stream, give } = source();
  const reader = new SourceReader<Lent>();
  const taken: Lent[] = [];
  let go: () => void = () => undefined;
  const reading = reader.read(stream, async (item) => {
    taken.push(item);
    await new Promise<void>((resolve) => (go = resolve));
    item.close();
  });
  const [before, after] = [new Lent(), new Lent()];
  give(before);
  give(after);
  await breathe();
  reader.end();
  go();
  expect(await reading).toBe(false);
  expect(taken).toEqual([before]);
});
