import { createCanvas } from '@napi-rs/canvas';
import { openTextReader, readSizeOf } from './text-reader';

it('reads wide pictures as wide as it can, and long ones smaller', () => {
  expect(readSizeOf(16 / 9)).toEqual({ widthPx: 1920, heightPx: 1080 });
  for (const aspect of [0.01, 0.3, 1, 40, 100]) {
    const { widthPx, heightPx } = readSizeOf(aspect);
    expect(widthPx * heightPx).toBeLessThanOrEqual(8_400_000);
    expect(widthPx / heightPx / aspect).toBeGreaterThan(0.9);
    expect(widthPx / heightPx / aspect).toBeLessThan(1.1);
  }
});

it('says what is no picture, and reads the next one', async () => {
  const reader = await openTextReader();
  expect(() => reader.read(new Uint8Array([1, 2, 3]), 10, 10)).toThrow('no picture');
  const canvas = createCanvas(600, 200);
  const context = canvas.getContext('2d');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, 600, 200);
  expect(reader.read(canvas.toBuffer('image/png'), 600, 200)).toEqual([]);
  context.fillStyle = '#000000';
  context.font = '40px sans-serif';
  context.fillText('Low water', 50, 120);
  const [text] = reader.read(canvas.toBuffer('image/png'), 600, 200);
  expect(text).toMatchObject({ text: 'Low water', signs: 8 });
  expect([text!.x, text!.y + text!.height].map((share) => share.toFixed(1))).toEqual([
    '0.1',
    '0.6',
  ]);
  reader.close();
});
