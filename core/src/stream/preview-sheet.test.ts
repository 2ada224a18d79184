import { previewAt, previewSheet } from './preview-sheet';

const s = (seconds: number) => seconds * 1_000_000;

it('has a picture every two seconds of a short film, and a hundred of a long one', () => {
  expect(previewSheet(s(38))).toEqual({ everyUs: s(2), count: 19, columns: 10, rows: 2 });
  expect(previewSheet(s(3_600))).toEqual({ everyUs: s(36), count: 100, columns: 10, rows: 10 });
  expect(previewSheet(s(1))).toEqual({ everyUs: s(1), count: 1, columns: 1, rows: 1 });
});

it('finds the picture of a moment, and of no moment outside', () => {
  const sheet = previewSheet(s(38));
  expect(previewAt(sheet, 0)).toEqual({ column: 0, row: 0 });
  expect(previewAt(sheet, s(1.9))).toEqual({ column: 0, row: 0 });
  expect(previewAt(sheet, s(21))).toEqual({ column: 0, row: 1 });
  expect(previewAt(sheet, s(38))).toEqual({ column: 8, row: 1 });
  expect(previewAt(sheet, -5)).toEqual({ column: 0, row: 0 });
});
