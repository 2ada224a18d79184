import type { ShownPage } from './ink-track';
import { placeOnPage } from '../material/page-place';
import type { Rect } from '../scene/geometry';
import { DRAWING, drawingOf, type DrawnMark } from './drawing';

const ESCAPED: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
};

/** Text as it may stand in XML, between tags or in an attribute. */
export const xmlText = (text: string): string => text.replace(/[&<>"]/g, (sign) => ESCAPED[sign]!);

const opacityOf = ({ opacity }: DrawnMark) =>
  opacity < 1 ? ` opacity="${Math.round(opacity * 100) / 100}"` : '';

const elementOf = (mark: DrawnMark): string => {
  switch (mark.is) {
    case 'area':
      return `<path fill="${mark.colour}"${opacityOf(mark)} d="${mark.path}"/>`;
    case 'line':
      return `<path fill="none" stroke="${mark.colour}"${opacityOf(mark)} stroke-width="${Math.round(mark.width * 100) / 100}" stroke-linecap="round" stroke-linejoin="round" d="${mark.path}"/>`;
    case 'words': {
      const lines = mark.lines.map(
        ({ text, x, y }) => `<tspan x="${x}" y="${y}">${xmlText(text)}</tspan>`,
      );
      return `<text fill="${mark.colour}"${opacityOf(mark)} font-family="Bitter, serif" font-weight="600" font-size="${mark.size}" dominant-baseline="text-before-edge" xml:space="preserve">${lines.join('')}</text>`;
    }
  }
};

const imageOf = ({ x, y, width, height }: Rect, picture: string): string => {
  const [left, top, wide, high] = [x, y, width, height].map((of) => of * DRAWING.width);
  const place = `x="${left}" y="${top}" width="${wide}" height="${high}"`;
  return `<rect ${place} fill="#fff"/><image ${place} preserveAspectRatio="none" href="${xmlText(picture)}"/>`;
};

/**
 * A page as a file of SVG (2): vectors, and words as text.
 *
 * @param title read out, and shown by browsers
 * @param picture of the material's page that lies on it, as an address (RFC 2397)
 */
export const svgOf = (page: ShownPage, title: string, picture: string | null = null): string => {
  const { ground, marks } = drawingOf(page);
  const { width, height } = DRAWING;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img">`,
    `<title>${xmlText(title)}</title>`,
    `<rect width="${width}" height="${height}" fill="${ground}"/>`,
    ...(page.of && picture ? [imageOf(placeOnPage(page.of), picture)] : []),
    ...marks.map(elementOf),
    '</svg>\n',
  ].join('\n');
};
