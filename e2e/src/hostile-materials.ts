import { deflateSync } from 'node:zlib';
import { crc32 } from '@under-chalk/core/testing/crc32';

/** A file that was made to do harm, or that something broke. */
export interface HostileMaterial {
  readonly name: string;
  readonly bytes: Buffer;
}

type Part = string | Buffer;
const joined = (...parts: Part[]) =>
  Buffer.concat(
    parts.map((part) => (typeof part === 'string' ? Buffer.from(part, 'latin1') : part)),
  );

/** A PDF of numbered objects; the first is its catalog. */
const pdf = (objects: readonly Part[], trailer = ''): Buffer => {
  const parts: Buffer[] = [Buffer.from('%PDF-1.7\n%\xe2\xe3\xcf\xd3\n', 'latin1')];
  const places: number[] = [];
  let length = parts[0]!.length;
  objects.forEach((object, index) => {
    places.push(length);
    const part = joined(`${index + 1} 0 obj\n`, object, '\nendobj\n');
    parts.push(part);
    length += part.length;
  });
  const rows = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  const table = `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${rows}`;
  const end = `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R ${trailer} >>\nstartxref\n${length}\n%%EOF\n`;
  return joined(...parts, table, end);
};

const stream = (content: Part, entries = ''): Buffer => {
  const bytes = joined(content);
  return joined(`<< /Length ${bytes.length} ${entries} >>\nstream\n`, bytes, '\nendstream');
};

const CATALOG = '<< /Type /Catalog /Pages 2 0 R >>';
const PAGES = '<< /Type /Pages /Kids [3 0 R] /Count 1 >>';

/** A PDF of one page. @param more objects from the fifth on */
const onePage = (
  content: Part,
  {
    box = '[0 0 595 842]',
    resources = '',
    page = '',
    catalog = '',
    entries = '',
    more = [] as readonly Part[],
  } = {},
): Buffer =>
  pdf([
    `<< /Type /Catalog /Pages 2 0 R ${catalog} >>`,
    PAGES,
    `<< /Type /Page /Parent 2 0 R /MediaBox ${box} /Contents 4 0 R /Resources << ${resources} >> ${page} >>`,
    stream(content, entries),
    ...more,
  ]);

const plain = onePage('0.2 0.4 0.6 rg 0 0 300 300 re f');
const zeros = (bytes: number) => deflateSync(Buffer.alloc(bytes), { level: 9 });

/** A PNG that says a size, with pixels or without. */
const png = (width: number, height: number, pixels: Buffer): Buffer => {
  const chunk = (name: string, data: Buffer) => {
    const body = joined(name, data);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return joined(length, body, sum);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([1, 0, 0, 0, 0], 8);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return joined(
    signature,
    chunk('IHDR', head),
    chunk('IDAT', pixels),
    chunk('IEND', Buffer.alloc(0)),
  );
};

const svg = (inside: string, head = '', size = 'width="400" height="300"') =>
  Buffer.from(
    `${head}<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${size}>${inside}<rect width="40" height="30"/></svg>`,
  );

/**
 * Files that no reader should fall for. Some are sound and only lead elsewhere.
 *
 * @param elsewhere the address of a server that must never be asked for anything
 */
export const hostileMaterials = (elsewhere: string): HostileMaterial[] => {
  const found: HostileMaterial[] = [];
  const add = (name: string, bytes: Buffer | string) =>
    found.push({ name, bytes: Buffer.isBuffer(bytes) ? bytes : Buffer.from(bytes) });

  // Broken by accident, or so that a careless reader never ends.
  add('torn.pdf', plain.subarray(0, 200));
  add('only a header.pdf', '%PDF-1.7\n');
  add('no table.pdf', plain.subarray(0, plain.indexOf('xref')));
  add(
    'table that leads to itself.pdf',
    joined(plain.toString('latin1').replace('/Root', '/Prev 9 /Root')),
  );
  add('pages within themselves.pdf', pdf([CATALOG, '<< /Type /Pages /Kids [2 0 R] /Count 1 >>']));
  add('no pages.pdf', pdf([CATALOG, '<< /Type /Pages /Kids [] /Count 0 >>']));
  add(
    'ten thousand pages.pdf',
    pdf([
      CATALOG,
      `<< /Type /Pages /Kids [${'3 0 R '.repeat(10_000)}] /Count 10000 >>`,
      '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] >>',
    ]),
  );
  add(
    'says it has a billion pages.pdf',
    pdf([
      CATALOG,
      '<< /Type /Pages /Kids [3 0 R] /Count 1000000000 >>',
      '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 99 99] >>',
    ]),
  );
  for (const [name, box] of [
    ['five metres', '[0 0 14173 14173]'],
    ['a kilometre by a hair', '[0 0 2834645 1]'],
    ['no size', '[0 0 0 0]'],
    ['turned inside out', '[900 900 -900 -900]'],
    ['no numbers', '[/a /b /c /d]'],
  ] as const) {
    add(`page of ${name}.pdf`, onePage('0 0 100 100 re f', { box }));
  }
  add('brackets in brackets.pdf', onePage(`${'['.repeat(200_000)}`, {}));
  add('lists in lists.pdf', onePage('', { resources: `/X ${'<< /A '.repeat(50_000)}` }));
  add('a million strokes.pdf', onePage('0 0 m 99 99 l S '.repeat(1_000_000)));
  add('states on states.pdf', onePage('q '.repeat(500_000)));

  // More in them than there is room for.
  add(
    'a gigabyte of nothing.pdf',
    onePage(zeros(1_000_000_000), { entries: '/Filter /FlateDecode' }),
  );
  add(
    'packed three times.pdf',
    onePage(deflateSync(deflateSync(zeros(400_000_000))), {
      entries: '/Filter [/FlateDecode /FlateDecode /FlateDecode]',
    }),
  );
  const image = (entries: string, bytes: Part) =>
    onePage('500 0 0 500 0 0 cm /I Do', {
      resources: '/XObject << /I 5 0 R >>',
      more: [stream(bytes, `/Type /XObject /Subtype /Image ${entries}`)],
    });
  add(
    'picture of 30,000 by 30,000.pdf',
    image(
      '/Width 30000 /Height 30000 /BitsPerComponent 8 /ColorSpace /DeviceRGB /Filter /FlateDecode',
      zeros(100_000_000),
    ),
  );
  add(
    'picture of a billion.pdf',
    image('/Width 1000000000 /Height 1000000000 /BitsPerComponent 1 /ColorSpace /DeviceGray', 'x'),
  );
  add(
    'broken JPEG 2000.pdf',
    image('/Width 9 /Height 9 /Filter /JPXDecode', Buffer.alloc(500, 0xff)),
  );
  add(
    'broken JBIG2.pdf',
    image(
      '/Width 9 /Height 9 /BitsPerComponent 1 /ColorSpace /DeviceGray /Filter /JBIG2Decode',
      Buffer.alloc(500, 0x5a),
    ),
  );
  add(
    'broken fax.pdf',
    image(
      '/Width 60000 /Height 60000 /BitsPerComponent 1 /ColorSpace /DeviceGray /Filter /CCITTFaxDecode /DecodeParms << /K -1 /Columns 60000 >>',
      Buffer.alloc(2_000, 0x11),
    ),
  );

  // Round and round.
  const form = (inside: string, of: string) =>
    stream(
      inside,
      `/Type /XObject /Subtype /Form /BBox [0 0 500 500] /Resources << /XObject << /F ${of} >> >>`,
    );
  add(
    'form within itself.pdf',
    onePage('/F Do', { resources: '/XObject << /F 5 0 R >>', more: [form('/F Do', '5 0 R')] }),
  );
  add(
    'two forms within each other.pdf',
    onePage('/F Do', {
      resources: '/XObject << /F 5 0 R >>',
      more: [form('/F Do /F Do', '6 0 R'), form('/F Do /F Do', '5 0 R')],
    }),
  );
  add(
    'forms that double.pdf',
    onePage('/F Do', {
      resources: '/XObject << /F 5 0 R >>',
      more: Array.from({ length: 30 }, (_, n) => form('/F Do /F Do', `${Math.min(34, n + 6)} 0 R`)),
    }),
  );
  add(
    'pattern within itself.pdf',
    onePage('/Pattern cs /P scn 0 0 500 500 re f', {
      resources: '/Pattern << /P 5 0 R >>',
      more: [
        stream(
          '/Pattern cs /P scn 0 0 9 9 re f',
          '/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 9 9] /XStep 9 /YStep 9 /Resources << /Pattern << /P 5 0 R >> >>',
        ),
      ],
    }),
  );
  add(
    'tiles without number.pdf',
    onePage('/Pattern cs /P scn 0 0 14000 14000 re f', {
      box: '[0 0 14000 14000]',
      resources: '/Pattern << /P 5 0 R >>',
      more: [
        stream(
          '0 0 1 1 re f',
          '/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 1 1] /XStep 0.001 /YStep 0.001 /Resources << >>',
        ),
      ],
    }),
  );
  add(
    'mask within itself.pdf',
    onePage('/G gs 0 0 99 99 re f', {
      resources: '/ExtGState << /G 5 0 R >>',
      more: [
        '<< /SMask << /S /Luminosity /G 6 0 R >> >>',
        stream(
          '/G gs 0 0 9 9 re f',
          '/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Group << /S /Transparency >> /Resources << /ExtGState << /G 5 0 R >> >>',
        ),
      ],
    }),
  );
  add(
    'function that runs for ever.pdf',
    onePage('/S sh', {
      resources:
        '/Shading << /S << /ShadingType 1 /ColorSpace /DeviceGray /Domain [0 1000000 0 1000000] /Function 5 0 R >> >>',
      more: [
        stream(
          `{ ${'dup mul sqrt '.repeat(20_000)} pop }`,
          '/FunctionType 4 /Domain [0 1 0 1] /Range [0 1]',
        ),
      ],
    }),
  );
  add(
    'font that is none.pdf',
    onePage('BT /F 40 Tf 40 400 Td (Tides) Tj ET', {
      resources:
        '/Font << /F << /Type /Font /Subtype /TrueType /BaseFont /Nowhere /FontDescriptor << /Type /FontDescriptor /FontName /Nowhere /Flags 4 /FontFile2 5 0 R >> >> >>',
      more: [stream(Buffer.alloc(4_000, 0x7f))],
    }),
  );
  add(
    'font that is missing.pdf',
    onePage('BT /F 40 Tf 40 400 Td (Tides) Tj ET', {
      resources: '/Font << /F << /Type /Font /Subtype /Type1 /BaseFont /NotThere >> >>',
    }),
  );

  // What should be dead.
  const action = (kind: string) => ({
    catalog: `/OpenAction << ${kind} >>`,
    page: `/Annots [<< /Type /Annot /Subtype /Link /Rect [0 0 99 99] /A << ${kind} >> >>]`,
  });
  add(
    'script.pdf',
    onePage('0 0 9 9 re f', action(`/S /JavaScript /JS (app.launchURL\\("${elsewhere}"\\);)`)),
  );
  add('launches a program.pdf', onePage('0 0 9 9 re f', action('/S /Launch /F (/bin/sh)')));
  add('leads elsewhere.pdf', onePage('0 0 9 9 re f', action(`/S /URI /URI (${elsewhere}/a)`)));
  add('fetches its content.pdf', onePage('', { entries: `/F << /FS /URL /F (${elsewhere}/b) >>` }));
  add('sends a form.pdf', onePage('0 0 9 9 re f', action(`/S /SubmitForm /F (${elsewhere}/c)`)));
  add(
    'needs a password.pdf',
    pdf(
      [CATALOG, PAGES, '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] >>'],
      `/ID [<00112233445566778899aabbccddeeff> <00112233445566778899aabbccddeeff>] /Encrypt << /Filter /Standard /V 2 /R 3 /Length 128 /P -1 /O <${'11'.repeat(32)}> /U <${'22'.repeat(32)}> >>`,
    ),
  );

  // Pictures.
  add('says 30,000 by 30,000.png', png(30_000, 30_000, deflateSync(Buffer.alloc(10))));
  add('is 30,000 by 30,000.png', png(30_000, 30_000, zeros(30_000 * 3_751)));
  add('says four billion.png', png(0xffffffff, 0xffffffff, deflateSync(Buffer.alloc(10))));
  add('torn.png', png(90, 90, deflateSync(Buffer.alloc(20))).subarray(0, 50));
  add(
    'torn.jpg',
    Buffer.concat([
      Buffer.from([0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0xff, 0xff, 0xff, 0xff, 3]),
      Buffer.alloc(300, 1),
    ]),
  );
  add(
    '65,535 by 65,535.gif',
    joined('GIF89a', Buffer.from([0xff, 0xff, 0xff, 0xff, 0xf7, 0, 0]), Buffer.alloc(2_000, 2)),
  );
  add(
    'broken.webp',
    joined('RIFF', Buffer.from([0xff, 0xff, 0xff, 0x7f]), 'WEBPVP8L', Buffer.alloc(900, 0xee)),
  );
  add(
    'broken.avif',
    joined(Buffer.from([0, 0, 0, 28]), 'ftypavif', Buffer.alloc(16), Buffer.alloc(900, 0x33)),
  );

  // Drawings.
  const laughs = Array.from(
    { length: 12 },
    (_, n) => `<!ENTITY l${n + 1} "${`&l${n};`.repeat(10)}">`,
  ).join('');
  add(
    'script.svg',
    svg(`<script>fetch("${elsewhere}/d")</script><a href="javascript:alert(1)"><text>x</text></a>`),
  );
  add(
    'fetches a picture.svg',
    svg(
      `<image href="${elsewhere}/e.png" width="9" height="9"/><image xlink:href="file:///etc/passwd" width="9" height="9"/>`,
    ),
  );
  add(
    'fetches a style.svg',
    svg(`<style>@import url("${elsewhere}/f.css"); rect { fill: url(${elsewhere}/g) }</style>`),
  );
  add(
    'names that grow.svg',
    svg('<text>&l12;</text>', `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY l0 "ha">${laughs}]>`),
  );
  add(
    'reads a file.svg',
    svg(
      '<text>&x;</text>',
      '<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>',
    ),
  );
  add(
    'uses itself.svg',
    svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/><use href="#a"/></g>'),
  );
  add(
    'uses that double.svg',
    svg(
      Array.from(
        { length: 30 },
        (_, n) => `<g id="u${n + 1}"><use href="#u${n}"/><use href="#u${n}"/></g>`,
      ).join('') + '<g id="u0"><rect width="1" height="1"/></g>',
    ),
  );
  add(
    'of a billion.svg',
    svg('<rect width="9" height="9"/>', '', 'width="1000000000" height="1000000000"'),
  );
  add(
    'blurred without end.svg',
    svg(
      '<filter id="f" width="9999" height="9999"><feGaussianBlur stdDeviation="99999"/></filter><rect filter="url(#f)" width="400" height="300"/>',
    ),
  );
  add(
    'a page in a drawing.svg',
    svg(
      `<foreignObject width="99" height="99"><iframe xmlns="http://www.w3.org/1999/xhtml" src="${elsewhere}/h"></iframe></foreignObject>`,
    ),
  );

  // Typed.
  add('one long line.txt', 'tide'.repeat(1_500_000));
  add('quotes in quotes.md', `${'>'.repeat(50_000)} tide`);
  add(
    'lists in lists.md',
    Array.from({ length: 3_000 }, (_, n) => `${' '.repeat(n * 2)}- tide`)
      .join('\n')
      .slice(0, 4_000_000),
  );
  add(
    'a page with script.md',
    `# Tide\n\n<script>fetch("${elsewhere}/i")</script>\n\n![x](${elsewhere}/j.png)`,
  );

  // Pages of the web.
  const page = (inside: string, head = '') =>
    `<!doctype html><html><head>${head}</head><body>${inside}</body></html>`;
  add('script.html', page(`<p>Tide</p><script>fetch("${elsewhere}/k")</script>`));
  add(
    'leads elsewhere.html',
    page(
      `<img src="${elsewhere}/l.png" srcset="${elsewhere}/m.png 2x"><iframe src="${elsewhere}/n"></iframe>
       <object data="${elsewhere}/o"></object><video src="${elsewhere}/p" poster="${elsewhere}/q"></video>
       <img src="x" onerror="fetch('${elsewhere}/r')"><p style="background:url(${elsewhere}/s)">Tide</p>`,
      `<base href="${elsewhere}/"><link rel="stylesheet" href="t.css"><style>@import "${elsewhere}/u.css";</style>
       <meta http-equiv="refresh" content="0;url=${elsewhere}/v">`,
    ),
  );
  add(
    'reads a file.html',
    page(`<img src="file:///etc/passwd"><svg width="99" height="99"><image href="file:///etc/passwd"/>
      <image href="${elsewhere}/w.png"/><script>fetch("${elsewhere}/x")</script></svg>`),
  );
  add('boxes in boxes.html', page('<div>'.repeat(200_000)));
  add('a million rows.html', page(`<table>${'<tr><td>1<td>2'.repeat(500_000)}</table>`));
  add('notes on notes.html', `${'<!---->'.repeat(580)}<p>Tide`);
  add(
    'says a picture of 30,000 by 30,000.html',
    page(
      `<img src="data:image/png;base64,${png(30_000, 30_000, deflateSync(Buffer.alloc(10))).toString('base64')}" alt="Tide">`,
    ),
  );
  const archive = (parts: readonly string[]) =>
    [
      'From: <Saved>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/related; boundary="e"\r\n',
      ...parts.map((part) => `--e\r\n${part}`),
      '--e--\r\n',
    ].join('\r\n');
  const inArchive = (html: string) =>
    `Content-Type: text/html\r\nContent-Location: ${elsewhere}/y.html\r\n\r\n${html}`;
  add('leads elsewhere.mhtml', archive([inArchive(page('<img src="z.png" alt="Tide">'))]));
  add('parts without number.mhtml', archive(Array.from({ length: 50_000 }, () => inArchive(''))));
  add(
    'letters in letters.mhtml',
    archive([`Content-Type: message/rfc822\r\n\r\n`.repeat(5_000) + inArchive('Tide')]),
  );
  add('lines of nothing.mhtml', `${'a:\r\n'.repeat(1_000)}Tide`);
  add(
    'a program.pdf',
    Buffer.concat([Buffer.from([0x7f, 0x45, 0x4c, 0x46]), Buffer.alloc(9_000, 7)]),
  );
  return found;
};
