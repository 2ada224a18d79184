import { ease } from '@under-chalk/core/scene/geometry';
import type { DrawingContext } from './drawing-context';

/** A screen to practise on: a tide table that scrolls, with a pointer that clicks. 1280×720. */
export const SCREEN_SIZE = { width: 1280, height: 720 } as const;

const ROW = 46;
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Invented heights: high waters a little later each day, springs and neaps over a fortnight. */
const rowOf = (day: number) => {
  const spring = Math.cos((day / 14.77) * 2 * Math.PI);
  const clock = (hours: number) => {
    const minutes = Math.round((((hours % 24) + 24) % 24) * 60);
    return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
  };
  const first = 3.1 + day * 0.81;
  return [
    `${DAYS[day % 7]} ${(day % 30) + 1}`,
    clock(first),
    `${(4.6 + spring * 0.9).toFixed(1)} m`,
    clock(first + 6.2),
    `${(1.3 - spring * 0.7).toFixed(1)} m`,
    clock(first + 12.4),
    `${(4.5 + spring * 0.9).toFixed(1)} m`,
  ];
};

const HEADS = ['Day', 'High water', 'Height', 'Low water', 'Height', 'High water', 'Height'];
const COLUMNS = [70, 250, 430, 590, 770, 930, 1110];

/** The steps the pointer goes through, again and again: seconds, place, and whether it clicks there. */
const PATH = [
  { at: 0, x: 640, y: 400, click: false },
  { at: 2, x: 280, y: 260, click: true },
  { at: 5, x: 460, y: 352, click: true },
  { at: 8, x: 1130, y: 444, click: true },
  { at: 11, x: 800, y: 560, click: false },
  { at: 14, x: 640, y: 400, click: false },
];
const LOOP = 14;

/** Where the pointer of the practice screen is at a time, pixels, and the step that it comes from. @param seconds */
export const pointerAt = (seconds: number) => {
  const into = seconds % LOOP;
  const next = Math.max(
    1,
    PATH.findIndex((step) => step.at > into),
  );
  const [from, to] = [PATH[next - 1]!, PATH[next]!];
  const eased = ease((into - from.at) / (to.at - from.at));
  const x = from.x + (to.x - from.x) * eased;
  const y = from.y + (to.y - from.y) * eased;
  return { x, y, from };
};

/** Draws the practice screen at a time, seconds. The table scrolls for three of every fourteen. */
export const drawScreen = (context: DrawingContext, seconds: number): void => {
  const { width, height } = SCREEN_SIZE;
  context.fillStyle = '#fbfaf5';
  context.fillRect(0, 0, width, height);

  const turn = Math.floor(seconds / LOOP);
  const into = seconds % LOOP;
  const scrolled = (turn + Math.min(1, Math.max(0, (into - 11) / 3))) * ROW * 6;
  const firstRow = Math.floor(scrolled / ROW);
  context.font = '24px "Atkinson Hyperlegible", sans-serif';
  context.textBaseline = 'middle';
  for (let row = firstRow; row < firstRow + 14; row++) {
    const y = 196 + row * ROW - scrolled;
    if (row % 2 === 0) {
      context.fillStyle = '#eef1ec';
      context.fillRect(40, y - ROW / 2, width - 80, ROW);
    }
    context.fillStyle = '#26343c';
    rowOf(row).forEach((cell, column) => context.fillText(cell, COLUMNS[column]!, y));
  }
  context.fillStyle = '#21515a';
  context.fillRect(0, 0, width, 96);
  context.fillStyle = '#fbfaf5';
  context.font = '600 34px Bitter, serif';
  context.fillText('Lantern Quay · tide table for practice', 56, 50);
  context.fillStyle = '#cfdcd8';
  context.fillRect(0, 96, width, 62);
  context.fillStyle = '#21515a';
  context.font = '700 22px "Atkinson Hyperlegible", sans-serif';
  HEADS.forEach((head, column) => context.fillText(head, COLUMNS[column]!, 127));

  const { x, y, from } = pointerAt(into);
  const sinceClick = into - from.at;
  if (from.click && sinceClick < 0.5) {
    context.strokeStyle = `rgba(156, 47, 34, ${1 - sinceClick * 2})`;
    context.lineWidth = 5;
    context.beginPath();
    context.arc(from.x, from.y, 12 + sinceClick * 50, 0, Math.PI * 2);
    context.stroke();
  }
  context.fillStyle = '#111';
  context.strokeStyle = '#fff';
  context.lineWidth = 2;
  context.beginPath();
  context.moveTo(x, y);
  context.lineTo(x, y + 28);
  context.lineTo(x + 8, y + 21);
  context.lineTo(x + 19, y + 20);
  context.closePath();
  context.fill();
  context.stroke();
};
