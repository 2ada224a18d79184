import { cartridgeManifest } from './common-cartridge';

const film = (title: string, folder: string) => ({
  ...{ title, page: `${folder}/index.html` },
  files: [`${folder}/film.mp4`, `${folder}/captions en.vtt`],
});

it('names each film once, in order, with its page first and all files that it needs', () => {
  const manifest = cartridgeManifest({
    ...{ id: 'unit-4', title: 'Week 4 <tides>', description: 'Coastal & more', language: 'en' },
    films: [film('Set “#2”', '01 Set #2'), film('Drift', '02 Drift')],
  });
  expect(manifest).toContain('<schemaversion>1.3.0</schemaversion>');
  expect(manifest).toContain('Week 4 &lt;tides&gt;');
  expect(manifest).toContain('Coastal &amp; more');
  const referred = [...manifest.matchAll(/identifierref="([^"]+)"/g)].map(([, id]) => id);
  const resources = [...manifest.matchAll(/<resource identifier="([^"]+)"[^>]* href="([^"]+)"/g)];
  expect(referred).toEqual(resources.map(([, id]) => id));
  expect(resources.map(([, , href]) => href)).toEqual([
    ...['01%20Set%20%232/index.html', '02%20Drift/index.html'],
  ]);
  expect([...manifest.matchAll(/<file href="([^"]+)"/g)].map(([, href]) => href)).toEqual(
    ['01%20Set%20%232', '02%20Drift'].flatMap((folder) =>
      ['index.html', 'film.mp4', 'captions%20en.vtt'].map((name) => `${folder}/${name}`),
    ),
  );
});
