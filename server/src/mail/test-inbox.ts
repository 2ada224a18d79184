import type { TestMail } from '@under-chalk/core/contract/mail';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import PostalMime, { type Address } from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { newId } from '../store/ids';

/** E-mails that are kept, those that are told of, and the most that one may have, bytes. */
const MOST_KEPT = 500;
const MOST_TOLD = 100;
const MOST_BYTES = 1_000_000;

const inWords = (address: Address | undefined): string =>
  address === undefined
    ? ''
    : address.name
      ? `${address.name} <${address.address ?? ''}>`
      : (address.address ?? '');

/**
 * A mail server for practice: it takes e-mails as real ones do (SMTP, RFC 5321), keeps them in a folder, and passes none on. It
 * listens to this machine alone.
 */
export class TestInbox {
  readonly #folder: string;
  readonly #server: SMTPServer;
  #port: Promise<number> | null = null;

  /** @param folder where e-mails are kept, a file each (RFC 5322) */
  constructor(folder: string) {
    this.#folder = folder;
    this.#server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: MOST_BYTES,
      onData: (stream, _session, callback) => {
        const parts: Buffer[] = [];
        let bytes = 0;
        stream.on('data', (part: Buffer) => {
          bytes += part.length;
          if (bytes <= MOST_BYTES) parts.push(part);
        });
        stream.on('end', () => {
          if (bytes > MOST_BYTES) {
            callback(Object.assign(new Error('too large'), { responseCode: 552 }));
            return;
          }
          this.#keep(Buffer.concat(parts)).then(
            () => callback(null),
            (error: Error) => callback(error),
          );
        });
      },
    });
  }

  /** Where it listens; it begins to when it is first asked. */
  port(): Promise<number> {
    this.#port ??= new Promise((resolve, reject) => {
      this.#server.once('error', reject);
      const listening = this.#server.listen(0, '127.0.0.1', () =>
        resolve((listening.address() as { port: number }).port),
      );
    });
    return this.#port;
  }

  async #names(): Promise<string[]> {
    const names = await readdir(this.#folder).catch(() => []);
    return names.filter((name) => name.endsWith('.eml')).sort();
  }

  async #keep(mail: Buffer): Promise<void> {
    await mkdir(this.#folder, { recursive: true });
    const name = `${String(Date.now()).padStart(14, '0')}-${newId()}.eml`;
    await writeFile(join(this.#folder, name), mail);
    const names = await this.#names();
    for (const old of names.slice(0, Math.max(0, names.length - MOST_KEPT)))
      await rm(join(this.#folder, old), { force: true });
  }

  /** What has come last, newest first. */
  async mails(): Promise<TestMail[]> {
    const names = (await this.#names()).reverse().slice(0, MOST_TOLD);
    return Promise.all(
      names.map(async (name) => {
        const { from, to, subject, text } = await PostalMime.parse(
          await readFile(join(this.#folder, name)),
        );
        return {
          id: name.replace('.eml', ''),
          at: new Date(Number(name.split('-')[0])).toISOString(),
          from: inWords(from),
          to: (to ?? []).map(inWords).join(', '),
          ...{ subject: subject ?? '', text: text ?? '' },
        };
      }),
    );
  }

  /** Removes every e-mail to an address. */
  async forget(address: string): Promise<void> {
    const wanted = address.toLocaleLowerCase();
    for (const name of await this.#names()) {
      const path = join(this.#folder, name);
      const { to, cc } = await PostalMime.parse(await readFile(path));
      const isTheirs = [...(to ?? []), ...(cc ?? [])].some(
        (one) => one.address?.toLocaleLowerCase() === wanted,
      );
      if (isTheirs) await rm(path, { force: true });
    }
  }

  async close(): Promise<void> {
    if (this.#port === null) return;
    await this.#port.catch(() => undefined);
    await new Promise<void>((resolve) => this.#server.close(() => resolve()));
  }
}
