/** What the demo's teacher shows: slides, a chart and a student's work, all drawn here. No real chart is used. */
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import { buffer } from 'node:stream/consumers';

const { resolve } = createRequire(import.meta.url);
const family = (path: string) => resolve(`@expo-google-fonts/${path}.ttf`);

const SLIDES = [
  { title: 'Week four', lines: ['Our first course to steer', 'across the estuary'] },
  {
    title: 'Three pages, in this order',
    lines: ['1  The tide table', '2  The stream', '3  The chart'],
  },
  { title: 'Hard and easy', lines: ['Hard: aiming off for the stream', 'Easy: pencil and ruler'] },
  { title: 'Away on Thursday', lines: ['Questions by Wednesday evening,', 'please'] },
];

/** The slides of the week-four welcome, as PDF: 1280 by 720 points. */
export const slidesPdf = async (): Promise<Buffer> => {
  const doc = new PDFDocument({ size: [1280, 720], margin: 0, autoFirstPage: false });
  const written = buffer(doc);
  const bold = family('bitter/600SemiBold/Bitter_600SemiBold');
  const plain = family('atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular');
  SLIDES.forEach(({ title, lines }, index) => {
    doc.addPage();
    doc.rect(0, 0, 1280, 720).fill('#f5f1e6');
    doc.rect(0, 0, 36, 720).fill('#21515a');
    doc.font(bold).fontSize(68).fillColor('#21515a').text(title, 110, 122, { lineBreak: false });
    doc.font(plain).fontSize(44).fillColor('#22303a');
    lines.forEach((line, row) => doc.text(line, 110, 268 + row * 84, { lineBreak: false }));
    for (let x = 110; x <= 900; x += 6) {
      const y = 640 + Math.sin(x / 46 + index) * 14;
      if (x === 110) doc.moveTo(x, y);
      else doc.lineTo(x, y);
    }
    doc.lineWidth(5).stroke('#1f5c63');
  });
  doc.end();
  return written;
};

const bearing = (degrees: number, radius: number) => {
  const angle = ((degrees - 90) * Math.PI) / 180;
  return `${(1060 + Math.cos(angle) * radius).toFixed(1)} ${(560 + Math.sin(angle) * radius).toFixed(1)}`;
};

/** A page of a chart of the estuary at Lantern Quay, as SVG. */
export const chartSvg = (): string => {
  const rose = Array.from({ length: 36 }, (_, tenth) => {
    const inner = tenth % 9 === 0 ? 78 : tenth % 3 === 0 ? 90 : 96;
    return `M${bearing(tenth * 10, inner)} L${bearing(tenth * 10, 106)}`;
  }).join(' ');
  const depths = [
    [260, 430, '4₂'],
    [420, 360, '6₈'],
    [560, 430, '9₁'],
    [700, 350, '11'],
    [840, 420, '8₅'],
    [620, 250, '5₀'],
  ]
    .map(([x, y, metres]) => `<text x="${x}" y="${y}">${metres}</text>`)
    .join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1280 720" width="1280" height="720">
<title>The estuary at Lantern Quay</title>
<desc>Made up for the course. Two shores, soundings in metres, the quay, two buoys and a compass rose.</desc>
<rect width="1280" height="720" fill="#e6f0f2"/>
<path d="M0 250 C200 330 330 150 560 160 S900 60 1280 120 V0 H0 Z" fill="#eadfb8" stroke="#7a6a3a" stroke-width="3"/>
<path d="M0 600 C180 520 340 620 520 560 S880 660 1280 480 V720 H0 Z" fill="#eadfb8" stroke="#7a6a3a" stroke-width="3"/>
<path d="M0 320 C220 380 360 230 580 230 S920 150 1280 200" fill="none" stroke="#8fb6bd" stroke-width="2"/>
<path d="M0 540 C190 460 350 560 530 500 S890 590 1280 420" fill="none" stroke="#8fb6bd" stroke-width="2"/>
<g font-family="DejaVu Sans, sans-serif" font-size="24" fill="#35606a">${depths}</g>
<g stroke="#22303a" stroke-width="3"><path d="M180 560 v-46 h34 v40" fill="#b7653b"/><path d="M930 330 l14 -34 l14 34 z" fill="#c0392b"/><path d="M560 330 l14 -34 l14 34 z" fill="#2c7a4b"/></g>
<g font-family="DejaVu Sans, sans-serif" font-size="26" fill="#22303a"><text x="120" y="640">Lantern Quay</text><text x="896" y="372">Outer</text><text x="536" y="372">Middle</text></g>
<g fill="none" stroke="#6a3f7a" stroke-width="2"><circle cx="1060" cy="560" r="106"/><path d="${rose}"/></g>
<text x="1049" y="446" font-family="DejaVu Sans, sans-serif" font-size="24" fill="#6a3f7a">N</text>
</svg>
`;
};

/** What a student handed in: the chart with a course on it, laid under a camera a little askew, as PNG. */
export const plotPng = async (): Promise<Buffer> => {
  const chart = await loadImage(Buffer.from(chartSvg()));
  const canvas = createCanvas(1280, 860);
  const context = canvas.getContext('2d');
  context.fillStyle = '#8d7b66';
  context.fillRect(0, 0, 1280, 860);
  context.translate(640, 430);
  context.rotate(-0.022);
  context.scale(0.94, 0.94);
  context.translate(-640, -360);
  context.drawImage(chart, 0, 0);
  const line = (colour: string, ...points: readonly (readonly [number, number])[]) => {
    context.strokeStyle = colour;
    context.lineWidth = 5;
    context.lineCap = 'round';
    context.beginPath();
    points.forEach(([x, y], index) => (index === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    context.stroke();
  };
  // Ground track to the outer buoy, an hour of stream, and the course that makes up for it.
  line('#3b3f46', [200, 510], [940, 340]);
  line('#3b3f46', [200, 510], [270, 566]);
  line('#3b3f46', [270, 566], [560, 402]);
  return canvas.encode('png');
};
