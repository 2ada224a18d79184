import type { Chapter } from '../film/chapters';
import { escapedHtml } from '../text/html';
import type { Us } from '../time/us';
import { languageName } from '../words/language';

/** A film as a package that a course site can take (SCORM 1.2, ADL 2001): what is in it. */
export interface CoursePackage {
  /** Names it within its site: letters, digits, hyphens. */
  readonly id: string;
  readonly title: string;
  readonly description: string;
  readonly teacherName: string;
  /** The language that is spoken (BCP 47). */
  readonly language: string;
  readonly filmUs: Us;
  readonly chapters: readonly Chapter[];
  /** Languages that there are captions in. */
  readonly captions: readonly string[];
}

/** So much of it watched is all of it, percent: what a site is told as *completed*. */
export const COMPLETE_PERCENT = 80;

/** What the package's files are called. */
export const PACKAGE_FILES = {
  manifest: 'imsmanifest.xml',
  page: 'index.html',
  player: 'player.js',
  film: 'film.mp4',
  cover: 'cover.jpg',
} as const;
export const captionsFile = (language: string): string => `words-${language}.vtt`;

/** The schemas that the manifest says it keeps to; they lie beside it, as the standard wants. */
export const SCHEMAS = [
  'adlcp_rootv1p2.xsd',
  'ims_xml.xsd',
  'imscp_rootv1p1p2.xsd',
  'imsmd_rootv1p2p1.xsd',
] as const;

/** The manifest: one organization with one item, which is the page. */
export const packageManifest = ({ id, title, captions }: CoursePackage): string => {
  const { manifest: _, ...named } = PACKAGE_FILES;
  const files = [...Object.values(named), ...captions.map(captionsFile)];
  const name = escapedHtml(title);
  return `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="under-chalk-${id}" version="1.1"
  xmlns="http://www.imsproject.org/xsd/imscp_rootv1p1p2"
  xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_rootv1p2"
  xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"
  xsi:schemaLocation="http://www.imsproject.org/xsd/imscp_rootv1p1p2 imscp_rootv1p1p2.xsd http://www.adlnet.org/xsd/adlcp_rootv1p2 adlcp_rootv1p2.xsd">
  <metadata>
    <schema>ADL SCORM</schema>
    <schemaversion>1.2</schemaversion>
  </metadata>
  <organizations default="lesson">
    <organization identifier="lesson">
      <title>${name}</title>
      <item identifier="film" identifierref="page" isvisible="true">
        <title>${name}</title>
      </item>
    </organization>
  </organizations>
  <resources>
    <resource identifier="page" type="webcontent" adlcp:scormtype="sco" href="${PACKAGE_FILES.page}">
${files.map((file) => `      <file href="${escapedHtml(file)}"/>`).join('\n')}
    </resource>
  </resources>
</manifest>
`;
};

const STYLE =
  'body{margin:0;background:#f5f1e6;color:#232c31;font:1.05rem/1.5 "Atkinson Hyperlegible",system-ui,sans-serif}main{max-width:60rem;margin:0 auto;padding:1rem}h1{font-size:1.5rem;margin:.2rem 0}video{width:100%;max-height:75vh;background:#20292f;border-radius:8px}ol{list-style:none;margin:.5rem 0;padding:0}button{font:inherit;background:none;border:0;padding:.6rem .4rem;min-height:44px;color:#1d5a63;text-align:start;cursor:pointer}button:focus-visible,video:focus-visible{outline:3px solid #e2ad3a}.soft{color:#5c6568}';

/** The page: the film with its captions, its chapters to jump to, and the program that tells the site how much of it was watched. */
export const packagePage = (of: CoursePackage): string => {
  const { title, description, teacherName, language, chapters, captions, filmUs } = of;
  const clock = (us: Us) =>
    `${Math.floor(us / 60e6)}:${String(Math.floor(us / 1e6) % 60).padStart(2, '0')}`;
  const tracks = captions.map(
    (one) =>
      `<track kind="captions" srclang="${escapedHtml(one)}" label="${escapedHtml(languageName(one, one))}" src="${escapedHtml(captionsFile(one))}" />`,
  );
  const jumps = chapters.map(
    ({ title: name, startUs }) =>
      `<li><button type="button" data-at="${startUs / 1e6}">${clock(startUs)} ${escapedHtml(name)}</button></li>`,
  );
  return [
    '<!doctype html>',
    `<html lang="${escapedHtml(language)}">`,
    '<head><meta charset="utf-8" /><meta name="viewport" content="width=device-width" />',
    `<title>${escapedHtml(title)}</title><style>${STYLE}</style></head>`,
    `<body><main><h1>${escapedHtml(title)}</h1>`,
    ...(teacherName === '' ? [] : [`<p class="soft">${escapedHtml(teacherName)}</p>`]),
    `<video controls playsinline preload="metadata" poster="${PACKAGE_FILES.cover}" src="${PACKAGE_FILES.film}" aria-label="${escapedHtml(title)}" data-seconds="${Math.ceil(filmUs / 1e6)}" data-complete="${COMPLETE_PERCENT}">`,
    ...tracks,
    '</video>',
    '<p class="soft" role="status" id="told"></p>',
    ...(description === '' ? [] : [`<p>${escapedHtml(description)}</p>`]),
    ...(jumps.length > 1 ? ['<ol aria-label="Chapters">', ...jumps, '</ol>'] : []),
    `</main><script src="${PACKAGE_FILES.player}"></script></body></html>`,
    '',
  ].join('\n');
};
