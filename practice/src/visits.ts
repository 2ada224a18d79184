/** A form of a page, as somebody would send it. */
export interface Form {
  readonly to: string;
  readonly fields: Record<string, string>;
  /** What the browser keeps for where it goes, as it sends it. */
  readonly cookie?: string;
}

/** Text as it is read, of HTML. */
export const plainText = (html: string): string =>
  html.replaceAll('&quot;', '"').replaceAll('&#39;', "'").replaceAll('&amp;', '&');

/** The form of a page, filled in as it stands. */
export const formIn = (html: string): Form => {
  const [, to = ''] = /<form[^>]*action="([^"]*)"/.exec(html) ?? [];
  const fields = [...html.matchAll(/<input type="hidden" name="([^"]*)" value="([^"]*)">/g)];
  return {
    to: plainText(to),
    fields: Object.fromEntries(fields.map(([, name, value]) => [name!, plainText(value!)])),
  };
};

/** What a page tells its script. */
export const dataIn = (html: string): Record<string, string> =>
  Object.fromEntries(
    [...html.matchAll(/ data-(\w+)="([^"]*)"/g)].map(([, name, value]) => [
      name!,
      plainText(value!),
    ]),
  );

/** The first cookie of an answer, as it is sent back. */
export const cookieOf = (answer: Response): string =>
  (answer.headers.getSetCookie()[0] ?? '').split(';')[0]!;

/** The sentence of a page that tells why not. */
export const whyNot = (html: string): string => plainText(/<h1>(.*?)<\/h1>/.exec(html)?.[1] ?? '');

/**
 * People who go from the practice course site to Under Chalk, as their browsers would.
 *
 * @param site its address
 */
export const visitsFrom = (site: () => string) => {
  const post = ({ to, fields, cookie }: Form, headers: Record<string, string> = {}) =>
    fetch(to, {
      ...{ method: 'POST', redirect: 'manual', body: new URLSearchParams(fields) },
      // As a browser sends it from the site’s page.
      headers: {
        ...{ Origin: site(), 'Sec-Fetch-Site': 'cross-site' },
        ...(cookie === undefined ? {} : { Cookie: cookie }),
        ...headers,
      },
    });
  const asWho = (who: string) => ({ Cookie: `practice-who=${who}` });
  /** Somebody presses something in the site itself. */
  const press = (who: string, path: string, fields: Record<string, string> = {}) =>
    post({ to: site() + path, fields }, asWho(who));
  /** Goes up to what they come back with. */
  const comes = async (who: string, what: string): Promise<Form> => {
    const headers = asWho(who);
    const first = await fetch(`${site()}/launch/${what}`, { headers });
    const sent = await post(formIn(await first.text()));
    if (sent.status !== 200) return { to: '', fields: { status: String(sent.status) } };
    const { to = '' } = dataIn(await sent.text());
    const back = await fetch(to, { headers });
    return { ...formIn(await back.text()), cookie: cookieOf(sent) };
  };
  const arrives = async (who: string, what: string) => {
    const answer = await post(await comes(who, what));
    const to = answer.headers.get('Location');
    return { status: answer.status, to, html: to === null ? await answer.text() : '', answer };
  };
  return { post, press, comes, arrives };
};
