import { calledName, pictureWidthFor } from './material';
import { namedPage, pageInWords } from './named-page';
import { placeOnPage } from './page-place';

const materials = [
  { id: 'material-one', name: 'Week four.pdf' },
  { id: 'material-two', name: 'Week four 2.pdf' },
  { id: 'material-three', name: 'Straße.PNG' },
];

it.each([
  ['Week four', 'material-one', 0],
  ['week four.pdf', 'material-one', 0],
  ['Week four, page 3', 'material-one', 2],
  ['WEEK FOUR: slide 12', 'material-one', 11],
  ['Week four 2', 'material-two', 0],
  ['Week four 2 p. 5', 'material-two', 4],
  ['straße, page 1', 'material-three', 0],
  ['Week four, page 0', 'material-one', 0],
])('%s names a page', (words, id, page) => {
  expect(namedPage(words, materials)).toEqual({ id, page });
});

it.each(['', 'Week', 'Week fourteen', 'Week four and more', 'https://lantern.example/tides'])(
  '“%s” names none',
  (words) => {
    expect(namedPage(words, materials)).toBeNull();
  },
);

it('reads what it says', () => {
  for (const { id, name } of materials) {
    for (const page of [0, 8, 299]) {
      expect(namedPage(pageInWords(name, page), materials)).toEqual({ id, page });
    }
  }
});

it('lays a page of any shape into the middle, as large as it goes', () => {
  expect(placeOnPage({ aspect: 16 / 9 })).toEqual({ x: 0, y: 0, width: 1, height: 9 / 16 });
  const tall = placeOnPage({ aspect: 0.5 });
  expect([tall.height, tall.y]).toEqual([9 / 16, 0]);
  expect(tall.x + tall.width / 2).toBeCloseTo(0.5);
  const wide = placeOnPage({ aspect: 4 });
  expect([wide.x, wide.width]).toEqual([0, 1]);
  expect(wide.y + wide.height / 2).toBeCloseTo(9 / 32);
});

it('leaves the right half free beside a page of any shape', () => {
  for (const aspect of [0.1, 0.5, 210 / 297, 1, 16 / 9, 4]) {
    const { x, y, width, height } = placeOnPage({ aspect, beside: true });
    expect(width / height).toBeCloseTo(aspect);
    expect([x, y, 0.5 - x - width].every((room) => room >= -1e-9)).toBe(true);
    expect([x + width / 2, y + height / 2]).toEqual([expect.closeTo(0.25), expect.closeTo(9 / 32)]);
    expect(Math.max(width / 0.5, height / (9 / 16))).toBeCloseTo(1);
  }
});

it('is called by its name without the ending, and shown in the least width that is sharp', () => {
  expect(['a.pdf', 'b.tar.gz', '.hidden', 'Plan', 'v1.2 notes.md'].map(calledName)).toEqual([
    ...['a', 'b.tar', '.hidden', 'Plan', 'v1.2 notes'],
  ]);
  expect([1, 480, 481, 1920, 1921, 9_999].map(pictureWidthFor)).toEqual([
    ...[480, 480, 960, 1920, 3840, 3840],
  ]);
});
