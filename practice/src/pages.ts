import type { CourseSite } from '@under-chalk/core/course-site/site';
import { escapedHtml } from '@under-chalk/core/text/html';
import {
  COURSE,
  PEOPLE,
  userIdOf,
  WEEKS,
  type Assignment,
  type Column,
  type HandedIn,
  type Item,
  type News,
  type Person,
  type Score,
  type Tool,
} from './course';

const LOOK = `body{margin:0;font:1rem/1.5 Georgia,serif;background:#eef3f0;color:#14241c}
header{background:#23513c;color:#fff;padding:10px 18px;display:flex;flex-wrap:wrap;gap:14px;align-items:center}header a{color:#fff}
main{max-width:60rem;margin:0 auto;padding:18px}h1{font-size:1.5rem}h2{font-size:1.15rem;border-bottom:2px solid #23513c}
button,.button{font:inherit;min-height:44px;padding:8px 14px;border:2px solid #23513c;border-radius:4px;background:#fff;color:inherit;cursor:pointer;display:inline-block;text-decoration:none}
textarea,select{font:inherit;width:100%;box-sizing:border-box;min-height:44px}iframe{width:100%;height:70vh;border:1px solid #23513c;background:#fff}
table{border-collapse:collapse}td,th{border:1px solid #23513c;padding:6px 10px;text-align:start}input{font:inherit;min-height:44px;box-sizing:border-box;width:100%}
li{margin:8px 0}form{margin:10px 0}label{display:block;margin:8px 0 2px}`;

const page = (title: string, body: string, who: Person | null): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapedHtml(title)}</title><style>${LOOK}</style></head><body><header><strong>The practice course site</strong>${who ? `<span>${escapedHtml(who.name)}</span><a href="/">Be somebody else</a><a href="/course">The course</a><a href="/news">News</a><a href="/scores">Scores</a>${who.teaches ? '<a href="/tools">Tools</a>' : ''}` : ''}</header><main><h1>${escapedHtml(title)}</h1>${body}</main></body></html>`;

export const peoplePage = (): string =>
  page(
    'Who are you?',
    `<p>This site is for practice: it stands for whatever site your course is in. <a href="/join">What a tool has to know of it</a></p><ul>${PEOPLE.map(
      ({ id, name, teaches }) =>
        `<li><form method="post" action="/as/${id}"><button>${escapedHtml(name)}${teaches ? ', who teaches' : ''}</button></form></li>`,
    ).join('')}</ul>`,
    null,
  );

export const coursePage = (who: Person, items: readonly Item[]): string => {
  const weeks = WEEKS.map((week) => {
    const of = items.filter((item) => item.week === week);
    return `<section><h2>${week}</h2>${of.length === 0 ? '<p>Nothing yet.</p>' : `<ul>${of.map(({ id, title }) => `<li><a class="button" href="/item/${id}">${escapedHtml(title)}</a></li>`).join('')}</ul>`}</section>`;
  }).join('');
  const choose = (id: string) =>
    `<label for="${id}">Week</label><select id="${id}" name="week">${WEEKS.map((week) => `<option>${week}</option>`).join('')}</select>`;
  const editor = who.teaches
    ? `<section><h2>Put something in</h2><form method="post" action="/choose">${choose('week')}<p><button>Choose a film from Under Chalk</button></p></form><form method="post" action="/paste">${choose('paste-week')}<label for="code">Code for a frame</label><textarea id="code" name="code" rows="3"></textarea><p><button>Put the frame in</button></p></form><h2>Have a film handed in</h2><form method="post" action="/assign">${choose('assign-week')}<label for="title">Title</label><input id="title" name="title" required><label for="text">What to do</label><textarea id="text" name="text" rows="3"></textarea><label for="mb">At most so many MB</label><input id="mb" name="mb" type="number" min="0.1" step="0.1" value="20"><label for="minutes">At most so many minutes</label><input id="minutes" name="minutes" type="number" min="0.1" step="0.1" value="3"><p><button>Put the assignment in</button></p></form></section>`
    : '';
  return page(COURSE.title, weeks + editor, who);
};

/** The limits of an assignment, as whoever hands something in reads them. */
export const limitsInWords = ({ mostBytes, mostSeconds }: Assignment): string =>
  `at most ${mostBytes / 1e6} MB and ${mostSeconds / 60} ${mostSeconds === 60 ? 'minute' : 'minutes'}`;

const assignmentPage = (
  who: Person,
  { id, title }: Item,
  shows: Assignment,
  handedIn: readonly HandedIn[],
): string => {
  const of = handedIn.filter(
    (one) => one.itemId === id && (who.teaches || one.personId === who.id),
  );
  const name = (personId: string) => PEOPLE.find((one) => one.id === personId)?.name ?? '';
  const list = of.map(
    (one) =>
      `<li><a href="/handed-in/${one.id}">${escapedHtml(one.name)}</a>, ${(one.bytes / 1e6).toFixed(1)} MB, ${Math.round(one.seconds)} s${who.teaches ? `, of ${escapedHtml(name(one.personId))}` : ''}</li>`,
  );
  const form = `<form method="post" action="/item/${id}/submission" enctype="multipart/form-data"><label for="file">Your film, ${limitsInWords(shows)}</label><input id="file" name="file" type="file" accept="video/*"><p><button>Hand it in</button></p></form>`;
  return page(
    title,
    `<p>${escapedHtml(shows.text)}</p><p>A film as a file: ${limitsInWords(shows)}.</p>${form}<h2>Handed in</h2>${list.length === 0 ? '<p>Nothing yet.</p>' : `<ul>${list.join('')}</ul>`}`,
    who,
  );
};

/**
 * Keeps for the tool in the frame what it asks to be kept, for its own origin, as long as the page is open (LTI postMessage Storage
 * 1.0).
 */
const STORAGE = `<script>{const kept=new Map();addEventListener('message',({data,origin,source})=>{
const {subject,message_id,key,value}=data??{},answer=(value)=>source.postMessage({subject:subject+'.response',message_id,key,value},origin);
if(subject==='lti.put_data'){kept.set(origin+' '+key,value);answer(value)}
if(subject==='lti.get_data')answer(kept.get(origin+' '+key))})}</script>`;

export const itemPage = (who: Person, item: Item, handedIn: readonly HandedIn[]): string => {
  const { id, title, shows } = item;
  if (shows.is === 'assignment') return assignmentPage(who, item, shows, handedIn);
  return page(
    title,
    `${STORAGE}<iframe title="${escapedHtml(title)}" src="${shows.is === 'tool' ? `/launch/${id}` : escapedHtml(shows.address)}" allow="fullscreen; camera; microphone"></iframe>`,
    who,
  );
};

const scoreInWords = (score: Score | undefined, { most }: Column): string => {
  if (!score) return '–';
  const given =
    score.given === null
      ? ''
      : `${Math.round((score.given / (score.most ?? most)) * most)} of ${most}`;
  return `${given}${score.progress === 'Completed' ? ', done' : ', not done yet'}`;
};

/** Scores: of all to who teaches, to others their own. */
export const scoresPage = (
  who: Person,
  columns: readonly Column[],
  scores: readonly Score[],
): string => {
  if (columns.length === 0) return page('Scores', '<p>There are no columns yet.</p>', who);
  const shown = PEOPLE.filter((one) => !one.teaches && (who.teaches || one.id === who.id));
  const head = columns.map(({ label }) => `<th scope="col">${escapedHtml(label)}</th>`).join('');
  const rows = shown.map((one) => {
    const cells = columns.map((column) => {
      const score = scores.find(
        ({ columnId, userId }) => columnId === column.id && userId === userIdOf(one),
      );
      return `<td>${scoreInWords(score, column)}</td>`;
    });
    return `<tr><th scope="row">${escapedHtml(one.name)}</th>${cells.join('')}</tr>`;
  });
  return page(
    'Scores',
    `<table><thead><tr><th scope="col">Student</th>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`,
    who,
  );
};

/** What is new, newest first; who teaches adds to it. */
export const newsPage = (who: Person, news: readonly News[]): string => {
  const form = who.teaches
    ? '<form method="post" action="/news"><label for="text">What is new</label><textarea id="text" name="text" rows="2"></textarea><label for="news-code">Code for a frame, if there is one</label><textarea id="news-code" name="code" rows="2"></textarea><p><button>Put it up</button></p></form>'
    : '';
  const shown = news.map(
    ({ text, address }) =>
      `<section><p>${escapedHtml(text)}</p>${address ? `<iframe title="${escapedHtml(text)}" src="${escapedHtml(address)}" allow="fullscreen"></iframe>` : ''}</section>`,
  );
  return page('News', form + (shown.join('') || '<p>Nothing yet.</p>'), who);
};

/** @param tool that has joined by itself; null: none */
export const toolsPage = (who: Person, tool: Tool | null): string =>
  page(
    'Tools',
    `${tool ? `<p>${escapedHtml(tool.name)} has joined, as <code>${escapedHtml(tool.clientId)}</code>.</p><form method="post" action="/tools/forget"><button>Forget it</button></form>` : '<p>The tool that was typed in is used.</p>'}<form method="post" action="/tools"><label for="address">Address for joining, of a tool</label><input id="address" name="address"><p><button>Let it join</button></p></form><p><a href="/join">What a tool has to know, where it is typed in</a></p>`,
    who,
  );

/** A tool joins in a frame, and says when it is done (LTI Dynamic Registration 1.0, 3.9). */
export const joiningPage = (who: Person, address: string): string =>
  page(
    'A tool joins',
    `<iframe title="The tool" src="${escapedHtml(address)}"></iframe><script>addEventListener('message',(told)=>{if(told.data?.subject==='org.imsglobal.lti.close')location.href='/tools'})</script>`,
    who,
  );

export const choosingPage = (who: Person): string =>
  page(
    'Choose a film',
    `${STORAGE}<iframe title="Under Chalk" src="/launch/choose"></iframe>`,
    who,
  );

export const toldPage = (title: string, who: Person | null): string =>
  page(title, '<p><a class="button" href="/course">Back to the course</a></p>', who);

/** What a tool has to know of this site, to be typed in by hand. */
export const joinPage = ({
  issuer,
  clientId,
  authAddress,
  tokenAddress,
  keysAddress,
}: CourseSite): string =>
  page(
    'What a tool has to know',
    `<dl>${Object.entries({
      Issuer: issuer,
      'Client ID': clientId,
      'Authorization address': authAddress,
      'Token address': tokenAddress,
      'Keys address': keysAddress,
    })
      .map(([name, value]) => `<dt>${name}</dt><dd><code>${escapedHtml(value)}</code></dd>`)
      .join('')}</dl>`,
    null,
  );

/** A form that sends itself. @param to where to @param fields what with */
export const sendPage = (to: string, fields: Readonly<Record<string, string>>): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>One interaction</title></head><body><form id="send" method="post" action="${escapedHtml(to)}">${Object.entries(
    fields,
  )
    .map(
      ([name, value]) =>
        `<input type="hidden" name="${escapedHtml(name)}" value="${escapedHtml(value)}">`,
    )
    .join(
      '',
    )}<button>Go on</button></form><script>document.getElementById('send').submit()</script></body></html>`;

/** Leads out of the frame that it stands in. */
export const outPage = (to: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Done</title></head><body><p><a target="_top" href="${to}">Back to the course</a></p><script>top.location.href=${JSON.stringify(to)}</script></body></html>`;
