import createDOMPurify from 'dompurify';
import { JSDOM } from 'jsdom';
import sharp from 'sharp';
import { Unreadable, type MaterialFile } from '../reading';
import { pictureFile } from './picture';

/** A drawing refers to parts of its own, and to pictures that it carries along; to nothing outside. */
const INSIDE = /^(?:#|data:image\/(?:png|jpeg|webp|gif);base64,)/i;
/** Style that fetches something. */
const LEADS_OUT = /@import|url\s*\(\s*['"]?(?!#)/i;
/** Dots per inch that a drawing's own size is told in, by CSS 2.1. */
const CSS_DPI = 96;
/** Finest that it is drawn at (of what the library can). */
const MOST_DPI = 9_600;

const { window } = new JSDOM('');

/** A drawing without scripts and without what leads outside. */
export const cleanSvg = (text: string): string => {
  const purify = createDOMPurify(window);
  purify.addHook('uponSanitizeAttribute', (_node, data) => {
    const leads = /^(xlink:)?href$/i.test(data.attrName) && !INSIDE.test(data.attrValue.trim());
    if (leads || LEADS_OUT.test(data.attrValue)) data.keepAttr = false;
  });
  purify.addHook('uponSanitizeElement', (node) => {
    const css = node.nodeName === 'style' ? (node.textContent ?? '') : '';
    if (LEADS_OUT.test(css)) node.textContent = '';
  });
  return purify.sanitize(text, {
    USE_PROFILES: { svg: true, svgFilters: true },
    ADD_TAGS: ['use'],
    NAMESPACE: 'http://www.w3.org/2000/svg',
    PARSER_MEDIA_TYPE: 'application/xhtml+xml',
  });
};

/** What a drawing says: its title, its description and its words. */
const wordsIn = (text: string): string => {
  const document = new window.DOMParser().parseFromString(text, 'image/svg+xml');
  return [...document.querySelectorAll('title, desc, text')]
    .map((element) => element.textContent?.replace(/\s+/g, ' ').trim() ?? '')
    .filter(Boolean)
    .join('\n');
};

/** Opens a drawing (SVG 2), cleaned. @throws Unreadable */
export const openSvg = async (text: string): Promise<MaterialFile> => {
  const clean = Buffer.from(cleanSvg(text));
  const { width: ownWidth } = await sharp(clean, { density: CSS_DPI })
    .metadata()
    .catch((error: unknown) => {
      throw new Unreadable('material-unreadable', String(error));
    });
  const opened = await pictureFile(clean);
  const words = wordsIn(clean.toString());
  return {
    ...opened,
    words: async () => words,
    async paint(page, widthPx, format) {
      const density = Math.min(MOST_DPI, Math.max(1, (CSS_DPI * widthPx) / ownWidth));
      // Drawn as large as it is shown, and not enlarged.
      const sharpened = await sharp(clean, { density }).png().toBuffer();
      return (await pictureFile(sharpened)).paint(page, widthPx, format);
    },
  };
};
