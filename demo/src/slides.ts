import type { DrawingContext } from '@under-chalk/paint/practice/drawing-context';

const SLIDES = [
  { title: 'Week four', lines: ['Our first course to steer', 'across the estuary'] },
  {
    title: 'Three pages, in this order',
    lines: ['1  The tide table', '2  The stream', '3  The chart'],
  },
  { title: 'Hard and easy', lines: ['Hard: aiming off for the stream', 'Easy: pencil and ruler'] },
  { title: 'Away on Thursday', lines: ['Questions by Wednesday evening,', 'please'] },
];

/** Draws a slide of the welcome lesson, 1280×720. */
export const drawSlide = (context: DrawingContext, index: number): void => {
  const slide = SLIDES[Math.min(index, SLIDES.length - 1)]!;
  context.fillStyle = '#f5f1e6';
  context.fillRect(0, 0, 1280, 720);
  context.fillStyle = '#21515a';
  context.fillRect(0, 0, 36, 720);
  context.textBaseline = 'alphabetic';
  context.font = '600 68px Bitter, serif';
  context.fillText(slide.title, 110, 190);
  context.font = '44px "Atkinson Hyperlegible", sans-serif';
  context.fillStyle = '#22303a';
  slide.lines.forEach((line, row) => context.fillText(line, 110, 310 + row * 84));
  context.strokeStyle = '#1f5c63';
  context.lineWidth = 5;
  context.beginPath();
  for (let x = 110; x <= 900; x += 6) {
    const y = 640 + Math.sin(x / 46 + index) * 14;
    if (x === 110) context.moveTo(x, y);
    else context.lineTo(x, y);
  }
  context.stroke();
};
