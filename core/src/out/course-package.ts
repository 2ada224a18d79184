import type { Chapter } from '../film/chapters';
import { escapedHtml } from '../text/html';
import type { Us } from '../time/us';
import { filmPage, type PageLabels } from './film-page';

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

/** The page: the film with its captions, its chapters to jump to, and the program that tells the site how much of it was watched. */
export const packagePage = (of: CoursePackage, labels: PageLabels): string =>
  filmPage({
    ...of,
    labels,
    film: PACKAGE_FILES.film,
    cover: PACKAGE_FILES.cover,
    captions: of.captions.map((language) => ({ language, src: captionsFile(language) })),
    data: { seconds: String(Math.ceil(of.filmUs / 1e6)), complete: String(COMPLETE_PERCENT) },
    after: ['<p class="soft" role="status" id="told"></p>'],
    script: `<script src="${PACKAGE_FILES.player}"></script>`,
  });
