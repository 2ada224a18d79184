import { studentText } from '../messages/student-text';
import { composeMail, type MailAbout } from './compose';

const ENGLISH = studentText('en');

const ABOUT: MailAbout = {
  studentName: 'Wen Castellan',
  teacherName: 'Ottilie Marsh',
  note: 'Please watch it before Thursday.\n',
  title: 'Tide heights',
  filmUs: 68_000_000,
  filmAddress: 'https://chalk.example/w/aaa',
  pageAddress: 'https://chalk.example/s/bbb',
  until: null,
  todo: null,
  asksPin: false,
};

it('says who, what and where, each address on a line of its own', () => {
  const { subject, text } = composeMail(ABOUT, ENGLISH);
  expect(subject).toBe('Tide heights');
  expect(text).toBe(`Hello Wen Castellan,

Please watch it before Thursday.

Tide heights, 1 min 8 secs:
https://chalk.example/w/aaa

All films for you are on your own page:
https://chalk.example/s/bbb

These links are for you alone. Please don’t pass them on.

Ottilie Marsh
`);
});

it('says what is to be done afterwards, and by when', () => {
  const text = 'Plot a course to steer.\nShow your plot.';
  const plain = composeMail({ ...ABOUT, todo: { text, until: null } }, ENGLISH).text;
  expect(plain).toContain(`/aaa\n\nTo do afterwards:\n${text}\n\nAll films`);
  const dated = composeMail(
    { ...ABOUT, todo: { text, until: 'Friday 4 December at 18:00' } },
    ENGLISH,
  ).text;
  expect(dated).toContain('To do afterwards, by Friday 4 December at 18:00:\nPlot');
});

it('says until when, and that a PIN is asked for; leaves out what there isn’t', () => {
  const { subject, text } = composeMail(
    {
      ...ABOUT,
      ...{ note: ' ', title: '', teacherName: '', until: 'Friday 4 December', asksPin: true },
    },
    ENGLISH,
  );
  expect(subject).toBe('A film for you');
  expect(text).toContain('You can watch it until Friday 4 December.');
  expect(text).toContain('your six-digit PIN');
  expect(text).not.toMatch(/\n\n\n/);
  expect(text.endsWith('pass them on.\n')).toBe(true);
});

it.each([
  ['de', 'Hallo Wen,', 'Danach zu tun, bis'],
  ['fr', 'Bonjour Wen,', 'À faire ensuite, avant le'],
  ['es', 'Hola, Wen:', 'Para hacer después, antes del'],
] as const)('is written in %s', (language, hello, todo) => {
  const about = { ...ABOUT, studentName: 'Wen', todo: { text: 'Plot.', until: '18:00' } };
  const { text } = composeMail(about, studentText(language));
  expect(text.startsWith(hello)).toBe(true);
  expect(text).toContain(`${todo} 18:00`);
  expect(text).not.toContain('page:\n');
});
