import { crc32 } from '@under-chalk/core/testing/crc32';

/** A file of an office program (DOCX, ECMA-376), made by hand: a ZIP of three stored parts. For tests. */

const zipOf = (parts: Readonly<Record<string, string>>): Buffer => {
  const files: Buffer[] = [];
  const entries: Buffer[] = [];
  let at = 0;
  for (const [name, text] of Object.entries(parts)) {
    const [path, bytes] = [Buffer.from(name), Buffer.from(text)];
    // From the version that is needed to the lengths: the same in both headers (APPNOTE 4.3.7, 4.3.12).
    const facts = Buffer.alloc(26);
    facts.writeUInt16LE(20, 0);
    facts.writeUInt32LE(crc32(bytes), 10);
    facts.writeUInt32LE(bytes.length, 14);
    facts.writeUInt32LE(bytes.length, 18);
    facts.writeUInt16LE(path.length, 22);
    const place = Buffer.alloc(14);
    place.writeUInt32LE(at, 10);
    const file = Buffer.concat([Buffer.from('PK\x03\x04'), facts, path, bytes]);
    files.push(file);
    entries.push(Buffer.concat([Buffer.from('PK\x01\x02\x14\0'), facts, place, path]));
    at += file.length;
  }
  const list = Buffer.concat(entries);
  const end = Buffer.alloc(18);
  end.writeUInt16LE(entries.length, 4);
  end.writeUInt16LE(entries.length, 6);
  end.writeUInt32LE(list.length, 8);
  end.writeUInt32LE(at, 12);
  return Buffer.concat([...files, list, Buffer.from('PK\x05\x06'), end]);
};

const OFFICE = 'http://schemas.openxmlformats.org';

/** @param picture an address that the document asks for a picture from */
export const docx = (text: string, picture?: string): Buffer => {
  const drawn = picture
    ? `<w:p><w:r><w:pict><v:shape xmlns:v="urn:schemas-microsoft-com:vml" style="width:50pt;height:50pt"><v:imagedata r:id="rId9" xmlns:r="${OFFICE}/officeDocument/2006/relationships"/></v:shape></w:pict></w:r></w:p>`
    : '';
  return zipOf({
    '[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="${OFFICE}/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`,
    '_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="${OFFICE}/package/2006/relationships"><Relationship Id="rId1" Type="${OFFICE}/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`,
    'word/document.xml': `<?xml version="1.0"?><w:document xmlns:w="${OFFICE}/wordprocessingml/2006/main"><w:body><w:p><w:r><w:t>${text}</w:t></w:r></w:p>${drawn}</w:body></w:document>`,
    ...(picture
      ? {
          'word/_rels/document.xml.rels': `<?xml version="1.0"?><Relationships xmlns="${OFFICE}/package/2006/relationships"><Relationship Id="rId9" Type="${OFFICE}/officeDocument/2006/relationships/image" Target="${picture}" TargetMode="External"/></Relationships>`,
        }
      : {}),
  });
};
