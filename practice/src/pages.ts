import type { CourseSite } from '@under-chalk/core/course-site/site';
import { escapedHtml } from '@under-chalk/core/text/html';
import { COURSE, PEOPLE, WEEKS, type Item, type Person } from './course';

const LOOK = `body{margin:0;font:1rem/1.5 Georgia,serif;background:#eef3f0;color:#14241c}
header{background:#23513c;color:#fff;padding:10px 18px;display:flex;flex-wrap:wrap;gap:14px;align-items:center}header a{color:#fff}
main{max-width:60rem;margin:0 auto;padding:18px}h1{font-size:1.5rem}h2{font-size:1.15rem;border-bottom:2px solid #23513c}
button,.button{font:inherit;min-height:44px;padding:8px 14px;border:2px solid #23513c;border-radius:4px;background:#fff;color:inherit;cursor:pointer;display:inline-block;text-decoration:none}
textarea,select{font:inherit;width:100%;box-sizing:border-box;min-height:44px}iframe{width:100%;height:70vh;border:1px solid #23513c;background:#fff}
li{margin:8px 0}form{margin:10px 0}label{display:block;margin:8px 0 2px}`;

const page = (title: string, body: string, who: Person | null): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapedHtml(title)}</title><style>${LOOK}</style></head><body><header><strong>The practice course site</strong>${who ? `<span>${escapedHtml(who.name)}</span><a href="/">Be somebody else</a><a href="/course">The course</a>` : ''}</header><main><h1>${escapedHtml(title)}</h1>${body}</main></body></html>`;

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
  const choose = `<label for="week">Week</label><select id="week" name="week">${WEEKS.map((week) => `<option>${week}</option>`).join('')}</select>`;
  const editor = who.teaches
    ? `<section><h2>Put something in</h2><form method="post" action="/choose">${choose}<p><button>Choose a film from Under Chalk</button></p></form><form method="post" action="/paste">${choose.replaceAll('week"', 'paste-week"').replace('name="paste-week"', 'name="week"')}<label for="code">Code for a frame</label><textarea id="code" name="code" rows="3"></textarea><p><button>Put the frame in</button></p></form></section>`
    : '';
  return page(COURSE.title, weeks + editor, who);
};

export const itemPage = (who: Person, { id, title, shows }: Item): string =>
  page(
    title,
    `<iframe title="${escapedHtml(title)}" src="${shows.is === 'tool' ? `/launch/${id}` : escapedHtml(shows.address)}" allow="fullscreen; camera; microphone"></iframe>`,
    who,
  );

export const choosingPage = (who: Person): string =>
  page('Choose a film', '<iframe title="Under Chalk" src="/launch/choose"></iframe>', who);

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
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>One moment</title></head><body><form id="send" method="post" action="${escapedHtml(to)}">${Object.entries(
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
