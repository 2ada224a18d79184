import { studentText } from '../messages/student-text';
import { studentPageHtml, watchHtml } from './watch-html';

const text = studentText('en');

const template = '<head><!--head--></head><body><div id="root"><!--served--></div></body>';
const watch = {
  title: 'Tide heights <b>& "$& costs"</b></script>',
  description: 'The rule of twelfths.',
  teacherName: 'Ottilie Marsh',
  languages: [],
  described: [],
  interactions: [],
  spoken: 'en',
  notePages: 0,
  filmUs: 61_000_000,
  chapters: [],
  state: 'done' as const,
  done: 1,
  aspect: 16 / 9,
  stream: null,
  downloads: false,
  named: false,
  licence: null,
  materials: [],
  assignment: null,
};
const served = (change: object = {}) =>
  watchHtml({
    template,
    token: 'AbCdEfGhIjKlMnOpQrStUv',
    watch: { ...watch, ...change },
    origin: 'https://chalk.example',
    text,
  });

it('has title, cover and description to be read without script, and for previews of the link', () => {
  const html = served();
  expect(html).toContain(
    '<h1>Tide heights &lt;b&gt;&amp; &quot;$&amp; costs&quot;&lt;/b&gt;&lt;/script&gt;</h1>',
  );
  expect(html).toContain('<img src="/api/watch/AbCdEfGhIjKlMnOpQrStUv/cover.jpg" alt="" />');
  expect(html).toContain('<p>The rule of twelfths.</p>');
  expect(html).toContain(
    '<meta property="og:image" content="https://chalk.example/api/watch/AbCdEfGhIjKlMnOpQrStUv/cover.jpg" />',
  );
  expect(html).toContain('Ottilie Marsh · 1 min 1 sec');
});

it('lets nothing that was typed out of its place', () => {
  const html = served();
  expect(html).not.toContain('<b>');
  // One element with data, and nothing in it that ends it.
  expect(html.match(/<script/g)).toHaveLength(1);
  expect(html.match(/<\/script>/g)).toHaveLength(1);
  const data = /id="watch-data"[^>]*>(.*)<\/script>/.exec(html)![1]!;
  expect(JSON.parse(data)).toEqual(watch);
});

it('says of a film that isn’t there yet, or no more, that it isn’t', () => {
  expect(served({ state: 'making', done: 0.3 })).toContain('This film is still being prepared.');
  expect(served({ state: 'making' })).not.toContain('cover.jpg');
  const gone = watchHtml({ template, token: 'x', watch: 'not-found', origin: '', text });
  expect(gone).toContain('There is no film at this address.');
  expect(gone).not.toContain('watch-data');
});

it('is in the language that the browser asks for', () => {
  const page = '<html lang="en"><head><!--head--></head><body><!--served--></body></html>';
  const told = (watched: 'not-found' | 'not-open-yet') =>
    watchHtml({
      ...{ template: page, token: 'x', watch: watched, origin: '' },
      text: studentText('de'),
    });
  expect(told('not-found')).toContain('<html lang="de"');
  expect(told('not-found')).toContain('Unter dieser Adresse gibt es kein Video.');
  expect(told('not-open-yet')).not.toContain('available');
  expect(studentPageHtml(page, 'pin-needed', studentText('fr'))).toContain(
    'Cette page demande un code.',
  );
  expect(studentPageHtml(page, 'no-page', studentText('es'))).toContain('<html lang="es"');
});
