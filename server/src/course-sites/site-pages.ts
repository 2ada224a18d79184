import { TOOL_PATHS } from '@under-chalk/core/course-site/site';
import { escapedHtml } from '@under-chalk/core/text/html';
import type { StudentText } from '../messages/student-text';
import { formatSpoken, type Us } from '@under-chalk/core/time/us';

/** What a page in a frame of a course site looks like: it needs no script, and fits wherever it is put. */
const LOOK = `body{margin:0;padding:16px;font:1rem/1.45 "Atkinson Hyperlegible",system-ui,sans-serif;background:#f5f1e6;color:#1d2a33}
h1{font-size:1.3rem;margin:0 0 12px}p{margin:0 0 12px}ul{list-style:none;margin:0;padding:0;display:grid;gap:8px}
button,.button{box-sizing:border-box;font:inherit;font-weight:700;min-height:44px;width:100%;text-align:start;padding:8px 14px;border:1px solid #b9b19c;border-radius:10px;background:#fffdf6;color:inherit;cursor:pointer}.button{display:flex;align-items:center;text-decoration:none}
fieldset{border:1px solid #b9b19c;border-radius:10px;margin:0 0 12px;padding:8px 14px}legend{font-weight:700}label{display:flex;gap:10px;align-items:center;min-height:44px;cursor:pointer}input{width:22px;height:22px;accent-color:#1f5a60;flex:none}
button:hover,.button:hover{border-color:#1f5a60}:is(button,.button):focus-visible{outline:3px solid #d9a400;outline-offset:2px}small{display:block;font-weight:400;color:#4a5660}
@media (prefers-color-scheme:dark){body{background:#17212a;color:#f1ede2}button,.button{background:#202c36;border-color:#51606c}small{color:#b8c1c8}}`;

const page = (title: string, body: string, script = '', language = 'en'): string =>
  `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapedHtml(title)}</title><style>${LOOK}</style></head><body><main aria-label="Under Chalk"><h1>${escapedHtml(title)}</h1>${body}</main>${script}</body></html>`;

/** A sentence, where something can't be done. */
export const toldPage = (sentence: string, next: string, language = 'en'): string =>
  page(sentence, `<p>${escapedHtml(next)}</p>`, '', language);

interface Choice {
  readonly shareLinkId: string;
  readonly title: string;
  readonly filmUs: Us;
  readonly unit: string;
}

/** What the course is told of those who watch. */
const GIVEN = `<fieldset><legend>What the course is told of those who watch it</legend>${[
  ['', 'Nothing', 'You see in Under Chalk who has watched.'],
  ['watched', 'How much of it was watched', 'In percent, in a column of the course’s scores.'],
  [
    'questions',
    'How many of its questions were answered right',
    'Of a film without questions: how much was watched.',
  ],
]
  .map(
    ([value, words, more]) =>
      `<label><input type="radio" name="gives" value="${value}"${value === '' ? ' checked' : ''}><span>${words}<small>${more}</small></span></label>`,
  )
  .join('')}</fieldset>`;

/**
 * Films that can be put into a course.
 *
 * @param takesScores the site has columns for scores
 * @param ticket comes back with what is chosen
 */
export const choosePage = (
  className: string,
  choices: readonly Choice[],
  takesScores: boolean,
  ticket: string,
): string =>
  choices.length === 0
    ? toldPage(
        'There is nothing to choose yet.',
        `What is handed out to ${className} in Under Chalk can be put into the course.`,
      )
    : page(
        'Choose a film for the course',
        `<form method="post" action="/lti/choose"><input type="hidden" name="ticket" value="${escapedHtml(ticket)}">${takesScores ? GIVEN : ''}<ul>${choices
          .map(
            ({ shareLinkId, title, filmUs, unit }) =>
              `<li><button name="share_link" value="${escapedHtml(shareLinkId)}">${escapedHtml(title || 'Untitled film')}<small>${escapedHtml([unit, formatSpoken(filmUs)].filter(Boolean).join(' · '))}</small></button></li>`,
          )
          .join('')}</ul></form>`,
      );

const attributes = (values: Readonly<Record<string, string>>): string =>
  Object.entries(values)
    .map(([name, value]) => ` data-${name}="${escapedHtml(value)}"`)
    .join('');

/** The page of a course that keeps something for us, by messages (LTI postMessage Storage 1.0). */
interface Storage {
  readonly frame: string;
  readonly origin: string;
  readonly key: string;
}

/** Has the course's page keep something, and goes on. */
export const keepPage = (
  storage: Storage,
  value: string,
  to: string,
  { t, language }: StudentText,
): string =>
  page(
    t('site.opening'),
    `<p><a href="${escapedHtml(to)}">${escapedHtml(t('site.continue'))}</a></p>`,
    `<script src="/lti/storage.js"${attributes({ ...storage, value, to })}></script>`,
    language,
  );

/** Asks the course's page for what it keeps, and comes back with it. */
export const keptPage = (
  storage: Storage,
  fields: Readonly<Record<string, string>>,
  { t, language }: StudentText,
): string =>
  page(
    t('site.opening'),
    `<form method="post" id="go-on" action="${TOOL_PATHS.launch}">${Object.entries({
      ...fields,
      secret: '',
    })
      .map(
        ([name, value]) =>
          `<input type="hidden" name="${escapedHtml(name)}" value="${escapedHtml(value)}">`,
      )
      .join('')}<noscript><button>${escapedHtml(t('site.continue'))}</button></noscript></form>`,
    `<script src="/lti/storage.js"${attributes({ ...storage })}></script>`,
    language,
  );

/** For browsers that block cookies in frames: restarts the sign-in in a new window. @param query that it starts with */
export const ownWindowPage = (query: string, { t, language }: StudentText): string =>
  page(
    t('site.window'),
    `<p>${escapedHtml(t('site.window-why'))}</p><p><a class="button" target="_blank" rel="noopener" href="${TOOL_PATHS.login}?${escapedHtml(query)}">${escapedHtml(t('site.window'))}</a></p>`,
    '',
    language,
  );

/** Sends what was chosen back to the course site: at once, or by a press where no script runs. */
export const sendPage = (returnTo: string, signed: string, title: string): string =>
  page(
    'Back to the course',
    `<form method="post" action="${escapedHtml(returnTo)}" id="back"><input type="hidden" name="JWT" value="${escapedHtml(signed)}"><button>Put “${escapedHtml(title)}” into the course</button></form>`,
    '<script src="/lti/send.js"></script>',
  );

/** The script of that page. */
export const SEND_SCRIPT = `document.getElementById('back').submit();\n`;

/** Asks before a site joins. @param issuer as it names itself @param asked what it came with, as a query */
export const joinPage = (issuer: string, asked: string): string =>
  page(
    'Join this course site?',
    `<p>${escapedHtml(issuer)} sends its people to Under Chalk from then on. You choose under Classes, Course sites, which class they are of.</p><form method="post" action="?${escapedHtml(asked)}"><button>Join it</button></form>`,
  );

/** Tells that a site has joined, and the site too (LTI Dynamic Registration 1.0, 3.9). */
export const joinedPage = (issuer: string): string =>
  page(
    'It is joined.',
    `<p>${escapedHtml(issuer)} stands under Classes, Course sites now.</p>`,
    '<script src="/lti/joined.js"></script>',
  );

/** The script of that page: whoever opened it closes it. It says nothing else, so anybody may hear it. */
export const JOINED_SCRIPT = `(window.opener ?? window.parent).postMessage({ subject: 'org.imsglobal.lti.close' }, '*');\n`;
