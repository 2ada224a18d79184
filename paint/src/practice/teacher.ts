import type { DrawingContext } from './drawing-context';

/** A drawn teacher at a desk, for recording without a camera. Sizes are of a 640×480 picture. */
export const TEACHER_SIZE = { width: 640, height: 480 } as const;

/**
 * Draws the practice teacher.
 *
 * @param seconds time for breathing, blinking and nodding
 * @param mouth how far it is open, 0 to 1: the loudness of the voice
 */
export const drawTeacher = (context: DrawingContext, seconds: number, mouth: number): void => {
  const { width, height } = TEACHER_SIZE;
  const wall = context.createLinearGradient(0, 0, 0, height);
  wall.addColorStop(0, '#8fa9a4');
  wall.addColorStop(1, '#6d8883');
  context.fillStyle = wall;
  context.fillRect(0, 0, width, height);
  // A window on the quay, with the lamp that gives the school its name.
  context.fillStyle = '#d9e6e2';
  context.fillRect(40, 50, 150, 190);
  context.fillStyle = '#5f8f96';
  context.fillRect(40, 165, 150, 75);
  context.fillStyle = '#f0c75e';
  context.beginPath();
  context.arc(115, 130, 14 + Math.sin(seconds * 1.3), 0, Math.PI * 2);
  context.fill();
  context.strokeStyle = '#44575a';
  context.lineWidth = 8;
  context.strokeRect(40, 50, 150, 190);

  const nod = Math.sin(seconds * 1.7) * 4 + mouth * 5;
  const x = 350 + Math.sin(seconds * 0.6) * 8;
  const y = 215 + nod;
  // Shoulders
  context.fillStyle = '#2f4b66';
  context.beginPath();
  context.ellipse(x - 5, 500, 190, 170, 0, Math.PI, 0);
  context.fill();
  context.fillStyle = '#f3eee0';
  context.beginPath();
  context.moveTo(x - 42, 350);
  context.lineTo(x, 410);
  context.lineTo(x + 42, 350);
  context.fill();
  // Neck and head
  context.fillStyle = '#b57d5c';
  context.fillRect(x - 32, y + 70, 64, 80);
  context.fillStyle = '#c78f6b';
  context.beginPath();
  context.ellipse(x, y, 84, 108, 0, 0, Math.PI * 2);
  context.fill();
  // Hair, gathered up
  context.fillStyle = '#5a4a3f';
  context.beginPath();
  context.ellipse(x, y - 52, 94, 74, 0, Math.PI, 0);
  context.fill();
  context.beginPath();
  context.arc(x + 8, y - 124, 32, 0, Math.PI * 2);
  context.fill();
  // Eyes
  const blink = seconds % 3.7 < 0.14 ? 0.12 : 1;
  context.fillStyle = '#fffdf6';
  for (const side of [-1, 1]) {
    context.beginPath();
    context.ellipse(x + side * 34, y - 10, 14, 10 * blink, 0, 0, Math.PI * 2);
    context.fill();
  }
  context.fillStyle = '#26343c';
  for (const side of [-1, 1]) {
    context.beginPath();
    context.ellipse(x + side * 34, y - 9, 6, 6 * blink, 0, 0, Math.PI * 2);
    context.fill();
  }
  // Glasses
  context.strokeStyle = '#26343c';
  context.lineWidth = 4;
  for (const side of [-1, 1]) {
    context.beginPath();
    context.arc(x + side * 34, y - 9, 25, 0, Math.PI * 2);
    context.stroke();
  }
  context.beginPath();
  context.moveTo(x - 9, y - 10);
  context.lineTo(x + 9, y - 10);
  context.stroke();
  // Mouth
  context.fillStyle = '#7a2f2c';
  context.beginPath();
  context.ellipse(x, y + 50, 25 - mouth * 5, 3 + mouth * 21, 0, 0, Math.PI * 2);
  context.fill();
};
