import { escapedHtml } from '../text/html';
import { hrefOf } from './unit-package';

/** A film of a cartridge: its page, and the files that it needs, by their names in the archive. */
export interface CartridgeFilm {
  readonly title: string;
  readonly page: string;
  readonly files: readonly string[];
}

/** The films of a unit for a course site, in their order (1EdTech Common Cartridge 1.3: pages, as web content). */
export interface Cartridge {
  /** Names it: letters, digits, hyphens. */
  readonly id: string;
  readonly title: string;
  readonly description: string;
  /** BCP 47 */
  readonly language: string;
  readonly films: readonly CartridgeFilm[];
}

/** What the manifest is called, at the top of the archive. */
export const CARTRIDGE_MANIFEST = 'imsmanifest.xml';

/** @param language of the text (BCP 47) */
const worded = (name: string, text: string, language: string): string =>
  `<lomm:${name}><lomm:string language="${escapedHtml(language)}">${escapedHtml(text)}</lomm:string></lomm:${name}>`;

/** The manifest of a cartridge: one folder with an item for each film. */
export const cartridgeManifest = ({
  id,
  title,
  description,
  language,
  films,
}: Cartridge): string => `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="under-chalk-${id}"
  xmlns="http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1"
  xmlns:lomm="http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest">
  <metadata>
    <schema>IMS Common Cartridge</schema>
    <schemaversion>1.3.0</schemaversion>
    <lomm:lom>
      <lomm:general>
        ${worded('title', title, language)}
        ${worded('description', description, language)}
      </lomm:general>
    </lomm:lom>
  </metadata>
  <organizations>
    <organization identifier="organization" structure="rooted-hierarchy">
      <item identifier="root">
        <item identifier="unit">
          <title>${escapedHtml(title)}</title>
${films
  .map(
    (film, at) =>
      `          <item identifier="item-${at + 1}" identifierref="film-${at + 1}">
            <title>${escapedHtml(film.title)}</title>
          </item>`,
  )
  .join('\n')}
        </item>
      </item>
    </organization>
  </organizations>
  <resources>
${films
  .map(
    ({ page, files }, at) =>
      `    <resource identifier="film-${at + 1}" type="webcontent" href="${escapedHtml(hrefOf(page))}">
${[page, ...files].map((file) => `      <file href="${escapedHtml(hrefOf(file))}"/>`).join('\n')}
    </resource>`,
  )
  .join('\n')}
  </resources>
</manifest>
`;
