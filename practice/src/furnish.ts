/**
 * Joins the practice course site with the demo and puts into its course what a teacher would, by the same addresses and standards:
 * `practice-furnish <its address> <address of Under Chalk>`. What is there already stays as it is.
 */
import { COURSE } from './course';
import { formIn, visitsFrom } from './visits';

const [site = 'http://127.0.0.1:4760', origin = 'http://127.0.0.1:4750'] = process.argv.slice(2);
const { post, press, arrives } = visitsFrom(() => site);
const TEACHER = 'ottilie';
const WEEK = 'Week 4';

const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const response = await fetch(origin + path, {
    method,
    ...(body === undefined
      ? {}
      : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status}`);
  return (await response.json()) as T;
};
const classNow = async () =>
  (await ask<{ id: string; name: string }[]>('GET', '/api/classes')).find(
    ({ name }) => name === COURSE.title,
  );

const joined: { id: string } = await (await fetch(`${site}/join.json`)).json();
await ask('POST', '/api/course-sites', joined);
const course = await fetch(`${site}/course`, { headers: { Cookie: `practice-who=${TEACHER}` } });
const its = await classNow();
if (its && !(await course.text()).includes('/item/')) {
  // A course is known when somebody has come from it.
  await arrives(TEACHER, 'choose');
  const chosen = { courseId: COURSE.id, classId: its.id };
  await ask('POST', `/api/course-sites/${joined.id}/courses`, chosen);
  await press(TEACHER, '/choose', { week: WEEK });
  const { html } = await arrives(TEACHER, 'choose');
  const [, shareLink] = /name="share_link" value="([^"]+)"/.exec(html) ?? [];
  if (shareLink) {
    const { to, fields } = formIn(html);
    const answer = await post({
      to: new URL(to, origin).href,
      fields: { ...fields, share_link: shareLink, gives: 'watched' },
    });
    await post(formIn(await answer.text()));
  }
  const { key } = await ask<{ key: string | null }>('POST', `/api/classes/${its.id}/page`);
  if (key !== null) {
    const code = `<iframe src="${origin}/s/${key}/now" title="This week’s film"></iframe>`;
    await press(TEACHER, '/news', { text: 'This week’s film:', code });
  }
  await press(TEACHER, '/assign', {
    ...{ week: WEEK, title: 'Your passage, explained', mb: '20', minutes: '3' },
    text: 'Record how you found your course to steer, and hand the film in here.',
  });
}
