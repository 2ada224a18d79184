import { createCanvas, loadImage, type Canvas } from '@napi-rs/canvas';

const WIDE = 640;
const HIGH = 360;

const outlined = (x: number, open: number): string => {
  const [up, down] = [200 - 22 * open, 200 + 18 * open];
  const lids = `M${x - 30},200 Q${x},${up} ${x + 30},200 Q${x},${down} ${x - 30},200 Z`;
  return `<clipPath id="lids-${x}"><path d="${lids}"/></clipPath>
    <path d="${lids}" fill="#f6f2ee" stroke="#4a3226" stroke-width="3"/>
    <g clip-path="url(#lids-${x})"><circle cx="${x}" cy="198" r="12" fill="#5a3d28"/><circle cx="${x}" cy="198" r="5"/></g>`;
};

const eye = (x: number, open: number): string => {
  const crease = 186 - 3 * open;
  const shut = `<path d="M${x - 30},203 Q${x},215 ${x + 30},203" fill="none" stroke="#3a2418" stroke-width="4"/>`;
  return `<ellipse cx="${x}" cy="196" rx="38" ry="24" fill="#a8714f" opacity="0.55"/>
    ${open > 0 ? outlined(x, open) : shut}
    <path d="M${x - 30},${crease} Q${x},${crease - 14} ${x + 30},${crease}" fill="none" stroke="#b98a6e" stroke-width="3"/>
    <path d="M${x - 36},168 Q${x},148 ${x + 36},166 Q${x},158 ${x - 36},168Z" fill="#4a3020"/>`;
};

/**
 * Somebody who looks at us, drawn so that what finds faces finds it. For tests.
 *
 * @param open how far the eyes are open, 0 to 1
 * @returns 640 by 360 px, sitting as before a webcam
 */
export const drawnFace = async (open: number): Promise<Canvas> => {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}" height="${HIGH}">
    <radialGradient id="skin" cx="45%" cy="40%" r="70%"><stop offset="0" stop-color="#f0c9a8"/>
      <stop offset="0.6" stop-color="#dfae8a"/><stop offset="1" stop-color="#b07f5e"/></radialGradient>
    <rect width="${WIDE}" height="${HIGH}" fill="#7f97a3"/>
    <g transform="translate(112 34) scale(0.65)">
    <path d="M200,170 Q200,50 320,45 Q440,50 440,170 L450,330 Q430,400 400,410 L240,410 Q205,390 190,330 Z" fill="#4a3020"/>
    <path d="M270,360 L270,430 L370,430 L370,360Z" fill="#c99672"/>
    <path d="M120,480 Q200,440 270,430 Q320,470 370,430 Q440,440 520,480Z" fill="#2d4a5a"/>
    <path d="M215,190 Q213,90 320,86 Q427,90 425,190 Q425,290 385,345 Q350,388 320,388 Q290,388 255,345 Q215,290 215,190Z" fill="url(#skin)"/>
    <path d="M212,180 Q225,90 320,80 Q415,90 428,180 Q410,110 330,112 Q250,110 212,180Z" fill="#4a3020"/>
    ${eye(270, open)}${eye(370, open)}
    <path d="M312,195 Q306,240 298,258 Q300,272 320,274 Q340,272 342,258 Q334,240 328,195" fill="#d09c78" opacity="0.6"/>
    <path d="M300,262 Q308,276 320,272 Q332,276 340,262" fill="none" stroke="#8f5f45" stroke-width="3"/>
    <path d="M275,318 Q300,304 320,310 Q340,304 365,318 Q345,340 320,342 Q295,340 275,318Z" fill="#b5594f"/>
    <path d="M275,318 Q320,326 365,318" fill="none" stroke="#6e2f2a" stroke-width="3"/></g></svg>`;
  const canvas = createCanvas(WIDE, HIGH);
  canvas.getContext('2d').drawImage(await loadImage(Buffer.from(svg)), 0, 0);
  return canvas;
};
