/**
 * Screens with a pointer whose every place is known: what somebody shows, drawn and encoded as a recorder does it. The
 * pointers are drawn here by themselves, not from the shapes that are looked for.
 */
import { createCanvas, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { feed, start } from '@under-chalk/render/ffmpeg/run';

export const SIZE = { widthPx: 1280, heightPx: 720 };
export const FPS = 30;
export const SECONDS = 12;

type Shape = 'arrow' | 'bar' | 'hand';
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly shape: Shape;
}

export interface Screen {
  readonly name: string;
  /** Where the pointer is in each picture; null where there is none. */
  readonly places: readonly (Place | null)[];
  readonly encoder: readonly string[];
  draw(context: SKRSContext2D, frame: number): void;
}

/** Numbers that look like chance and are the same every time (Mulberry32, T. Ettinger, public domain). */
const chance = (seed: number) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

interface Area {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}
const WHOLE: Area = { left: 20, top: 20, right: 1240, bottom: 680 };

/** A hand on a mouse: goes to a place as hands do (T. Flash and N. Hogan, 1985: with the least jerk), and rests there. */
const hand = (seed: number, area: Area, shapeAt: (x: number, y: number) => Shape): Place[] => {
  const random = chance(seed);
  const places: Place[] = [];
  const pick = () => ({
    x: area.left + random() * (area.right - area.left),
    y: area.top + random() * (area.bottom - area.top),
  });
  let at = pick();
  const put = (x: number, y: number) =>
    places.push({ x: Math.round(x), y: Math.round(y), shape: shapeAt(x, y) });
  for (let rest = 20; rest > 0; rest--) put(at.x, at.y);
  while (places.length < SECONDS * FPS) {
    const far = random();
    const aim = pick();
    const to = far < 0.4 ? { x: at.x + (aim.x - at.x) * 0.2, y: at.y + (aim.y - at.y) * 0.2 } : aim;
    const way = Math.hypot(to.x - at.x, to.y - at.y);
    const frames = Math.round((0.25 + 0.16 * Math.log2(1 + way / 40) + random() * 0.3) * FPS);
    for (let frame = 1; frame <= frames; frame++) {
      const t = frame / frames;
      const part = t ** 3 * (10 - 15 * t + 6 * t * t);
      const bend = Math.sin(t * Math.PI) * way * 0.06;
      put(at.x + (to.x - at.x) * part + bend, at.y + (to.y - at.y) * part - bend);
    }
    at = to;
    for (let rest = Math.round(random() * 30); rest > 0; rest--) put(at.x, at.y);
  }
  return places.slice(0, SECONDS * FPS);
};

type Theme = 'light' | 'dark';

/** A pointer as some desktop draws it: round corners, a soft shadow, its own proportions. */
const drawPointer = (
  context: SKRSContext2D,
  { x, y, shape }: Place,
  theme: Theme,
  scale: number,
): void => {
  const [fill, line] = theme === 'light' ? ['#ffffff', '#000000'] : ['#000000', '#ffffff'];
  context.save();
  context.translate(x + 0.5, y + 0.5);
  context.scale(scale, scale);
  context.lineJoin = 'round';
  context.beginPath();
  if (shape === 'bar') {
    context.lineWidth = 3.2;
    context.strokeStyle = theme === 'light' ? 'rgba(255,255,255,0.85)' : 'rgba(255,255,255,0.6)';
    const bar = () => {
      context.beginPath();
      context.moveTo(-3, -8);
      context.quadraticCurveTo(0, -8, 0, -6.5);
      context.lineTo(0, 6.5);
      context.quadraticCurveTo(0, 8, -3, 8);
      context.moveTo(3, -8);
      context.quadraticCurveTo(0, -8, 0, -6.5);
      context.moveTo(3, 8);
      context.quadraticCurveTo(0, 8, 0, 6.5);
    };
    bar();
    context.stroke();
    context.lineWidth = 1.2;
    context.strokeStyle = '#111111';
    bar();
    context.stroke();
    context.restore();
    return;
  }
  const corners =
    shape === 'arrow'
      ? theme === 'light'
        ? [
            [0, 0],
            [0, 16.6],
            [3.9, 13],
            [6.4, 18.6],
            [9.3, 17.3],
            [6.8, 11.9],
            [11.9, 11.6],
          ]
        : [
            [0, 0],
            [0, 15.8],
            [3.4, 12.6],
            [5.8, 17.7],
            [8.2, 16.6],
            [5.9, 11.4],
            [10.6, 11.2],
          ]
      : [
          ...[
            [-1.7, 0.6],
            [0, -0.4],
            [1.8, 0.6],
            [2.1, 6.8],
            [5.2, 7],
            [8.4, 8.2],
            [10.4, 9.8],
          ],
          ...[
            [10.6, 14.4],
            [8.6, 17.6],
            [8.6, 20.4],
            [-1.2, 20.4],
            [-2.2, 17.6],
            [-6.4, 12.2],
          ],
          ...[
            [-6, 10.2],
            [-4.2, 10],
            [-1.9, 12.2],
          ],
        ];
  corners.forEach(([cx, cy], index) =>
    index === 0 ? context.moveTo(cx!, cy!) : context.lineTo(cx!, cy!),
  );
  context.closePath();
  context.shadowColor = 'rgba(0,0,0,0.35)';
  context.shadowBlur = 3 * scale;
  context.shadowOffsetX = scale;
  context.shadowOffsetY = scale;
  context.fillStyle = fill;
  context.fill();
  context.shadowColor = 'transparent';
  context.lineWidth = theme === 'light' ? 1.1 : 1.6;
  context.strokeStyle = line;
  context.stroke();
  context.restore();
};

const WORDS =
  'the tide comes in over the sand and the harbour light stands where the chart has it so we lay off a course from the quay allow for what the stream will do and read the height against the rule of twelfths'.split(
    ' ',
  );

/** Text as it stands on a page, `shown` letters of it. */
const text = (
  context: SKRSContext2D,
  { left, top, right, bottom }: Area,
  line: number,
  shown = Infinity,
  seed = 1,
): void => {
  const random = chance(seed);
  let [x, y, letters] = [left, top + line, 0];
  while (y < bottom && letters < shown) {
    const word = WORDS[Math.floor(random() * WORDS.length)]!;
    const width = context.measureText(`${word} `).width;
    if (x + width > right) {
      x = left;
      y += line;
      if (random() < 0.15) y += line;
    }
    context.fillText(word.slice(0, Math.max(0, shown - letters)), x, y);
    x += width;
    letters += word.length;
  }
};

const TEXT: Area = { left: 320, top: 130, right: 1100, bottom: 640 };
const inText = (x: number, y: number): Shape =>
  x > TEXT.left && x < TEXT.right && y > TEXT.top + 40 && y < TEXT.bottom
    ? 'bar'
    : y > 70 && y < 100 && x > 200 && x < 900
      ? 'hand'
      : 'arrow';

/** A page that is written on, with buttons and a list; letters come one by one. */
const office = (context: SKRSContext2D, frame: number): void => {
  context.fillStyle = '#e9ecef';
  context.fillRect(0, 0, 1280, 720);
  context.fillStyle = '#2f5d8a';
  context.fillRect(0, 0, 1280, 44);
  context.fillStyle = '#ffffff';
  context.fillRect(280, 110, 860, 610);
  context.font = '15px sans-serif';
  for (let button = 0; button < 12; button++) {
    context.fillStyle = Math.floor(frame / 45) % 12 === button ? '#b8d0e8' : '#f7f8f9';
    context.fillRect(200 + button * 62, 64, 54, 34);
    context.fillStyle = '#334455';
    context.fillText('Item', 210 + button * 62, 86);
  }
  for (let row = 0; row < 16; row++) {
    context.fillStyle = row % 2 === 0 ? '#dde3e8' : '#e9ecef';
    context.fillRect(0, 110 + row * 36, 260, 36);
    context.fillStyle = '#223344';
    context.fillText(`Week ${row + 1} of the course`, 24, 133 + row * 36);
  }
  context.fillStyle = '#15181b';
  context.font = '17px serif';
  text(context, TEXT, 25, 600 + Math.floor(frame * 0.8));
};

const dark = (context: SKRSContext2D, frame: number): void => {
  context.fillStyle = '#1e2227';
  context.fillRect(0, 0, 1280, 720);
  context.fillStyle = '#282d34';
  context.fillRect(0, 0, 260, 720);
  context.font = '15px monospace';
  const random = chance(7);
  const colours = ['#c678dd', '#98c379', '#d0d5dd', '#e5c07b', '#61afef'];
  for (let row = 0; row < 32; row++) {
    context.fillStyle = '#5c6470';
    context.fillText(String(row + 1), 275, 40 + row * 21);
    let x = 320 + Math.floor(random() * 4) * 24;
    const shown = row < 20 ? 99 : Math.floor((frame - (row - 20) * 30) / 4);
    for (let word = 0; word < 2 + random() * 6; word++) {
      const letters = WORDS[Math.floor(random() * WORDS.length)]!;
      context.fillStyle = colours[Math.floor(random() * colours.length)]!;
      if (word < shown) context.fillText(letters, x, 40 + row * 21);
      x += (letters.length + 1) * 9;
    }
  }
};

const scrolling = (context: SKRSContext2D, frame: number): void => {
  context.fillStyle = '#fbfbf8';
  context.fillRect(0, 0, 1280, 720);
  const into = frame % 150;
  const scrolled = Math.floor(frame / 150) * 700 + Math.min(1, Math.max(0, (into - 40) / 80)) * 700;
  context.font = '18px serif';
  for (let part = 0; part < 8; part++) {
    const top = 40 + part * 500 - scrolled;
    if (top > 720 || top < -520) continue;
    context.fillStyle = '#123';
    text(context, { left: 200, top, right: 780, bottom: top + 420 }, 27, Infinity, part + 3);
    context.fillStyle = ['#a3b18a', '#457b9d', '#e07a5f', '#6d597a'][part % 4]!;
    context.fillRect(840, top + 20, 300, 200);
  }
};

const noise = (() => {
  let made: Canvas | null = null;
  return () => {
    if (made) return made;
    made = createCanvas(512, 512);
    const context = made.getContext('2d');
    const random = chance(11);
    for (let spot = 0; spot < 2600; spot++) {
      const [light, size] = [Math.floor(random() * 255), 2 + random() ** 3 * 70];
      context.fillStyle = `rgba(${light},${Math.floor(light * random())},${Math.floor(random() * 255)},0.5)`;
      context.beginPath();
      context.ellipse(random() * 512, random() * 512, size, size * random(), random() * 3, 0, 7);
      context.fill();
    }
    return made;
  };
})();

/** A film that plays on a page. */
const film = (context: SKRSContext2D, frame: number): void => {
  context.fillStyle = '#f2f2f2';
  context.fillRect(0, 0, 1280, 720);
  context.save();
  context.beginPath();
  context.rect(80, 60, 800, 450);
  context.clip();
  context.translate(480, 285);
  context.rotate(frame * 0.006);
  context.scale(1.9 + Math.sin(frame * 0.02) * 0.3, 1.9 + Math.sin(frame * 0.02) * 0.3);
  context.drawImage(noise(), -256 + Math.sin(frame * 0.03) * 60, -256);
  context.restore();
  context.fillStyle = '#111';
  context.font = '17px sans-serif';
  text(context, { left: 910, top: 50, right: 1250, bottom: 690 }, 24, Infinity, 5);
  text(context, { left: 80, top: 530, right: 880, bottom: 700 }, 24, Infinity, 6);
};

const H264 = (rate: string) => [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-tune', 'zerolatency', '-b:v', rate],
  ...['-maxrate', rate, '-bufsize', rate, '-g', '300', '-pix_fmt', 'yuv420p'],
];
const VP9 = (rate: string) => [
  ...['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-row-mt', '1'],
  ...['-b:v', rate, '-g', '300'],
];

const arrow = (): Shape => 'arrow';
const none = Array.from({ length: SECONDS * FPS }, () => null);

interface Pointed {
  readonly theme?: Theme;
  readonly scale?: number;
}

const screen = (
  name: string,
  ground: Screen['draw'],
  places: readonly (Place | null)[],
  encoder: readonly string[],
  { theme = 'light', scale = 1 }: Pointed = {},
): Screen => ({
  ...{ name, places, encoder },
  draw(context, frame) {
    ground(context, frame);
    const place = places[frame];
    if (place) drawPointer(context, place, theme, scale);
  },
});

export const SCREENS: readonly Screen[] = [
  screen('office page', office, hand(1, WHOLE, inText), H264('2500k')),
  screen(
    'film playing',
    film,
    hand(2, { ...WHOLE, right: 900, bottom: 520 }, arrow),
    H264('2500k'),
  ),
  screen(
    'dark editor',
    dark,
    hand(3, WHOLE, (x) => (x > 310 ? 'bar' : 'arrow')),
    VP9('2000k'),
  ),
  screen('dark editor, an arrow', dark, hand(13, WHOLE, arrow), VP9('2000k')),
  screen('page that scrolls', scrolling, hand(4, WHOLE, arrow), VP9('2500k')),
  screen('large pointer', office, hand(5, WHOLE, inText), H264('2500k'), { scale: 2 }),
  screen('dark pointer', office, hand(6, WHOLE, inText), VP9('2000k'), {
    theme: 'dark',
    scale: 1.25,
  }),
  screen('dark pointer over a film', film, hand(7, WHOLE, arrow), VP9('2500k'), {
    theme: 'dark',
    scale: 1.5,
  }),
  screen('few bits, office page', office, hand(8, WHOLE, inText), VP9('200k')),
  screen('few bits, page that scrolls', scrolling, hand(9, WHOLE, arrow), H264('300k'), {
    scale: 1.25,
  }),
  screen('no pointer, office page', office, none, H264('2500k')),
  screen('no pointer, film playing', film, none, VP9('2500k')),
  screen('no pointer, dark editor', dark, none, VP9('2000k')),
  screen('no pointer, page that scrolls', scrolling, none, H264('400k')),
];

/** Encodes a screen into an MP4. */
export const record = async (screen: Screen, out: string): Promise<void> => {
  const canvas = createCanvas(SIZE.widthPx, SIZE.heightPx);
  const context = canvas.getContext('2d');
  const encoder = start('ffmpeg', [
    ...['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${SIZE.widthPx}x${SIZE.heightPx}`],
    ...[
      '-r',
      String(FPS),
      '-i',
      'pipe:0',
      '-vf',
      'format=yuv420p',
      ...screen.encoder,
      '-f',
      'mp4',
      out,
    ],
  ]);
  for (let frame = 0; frame < SECONDS * FPS; frame++) {
    screen.draw(context, frame);
    await feed(encoder, Buffer.from(canvas.data()));
  }
  encoder.stdin.end();
  await encoder.ended;
};
