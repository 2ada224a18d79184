import { CLAIMS, LTI_VERSION } from '@under-chalk/core/course-site/launch';
import { exportJWK, generateKeyPair, SignJWT, type JWK } from 'jose';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { LinkSeal } from '../store/link-seal';
import { Launches } from './launches';
import type { SiteStore } from './site-store';

let server: Server;
let shown: { keys: JWK[] } | string;
let asked = 0;
beforeAll(async () => {
  server = createServer((_, response) => {
    asked++;
    response.setHeader('Content-Type', 'application/json');
    response.end(typeof shown === 'string' ? shown : JSON.stringify(shown));
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
});
afterAll(() => server.close());

const keyPair = async () => {
  const { publicKey, privateKey } = await generateKeyPair('RS256');
  const jwk = { ...(await exportJWK(publicKey)), kid: 'key-one', alg: 'RS256', use: 'sig' };
  return { jwk, privateKey };
};

const open = () => {
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const site = {
    ...{ id: 'site-one', name: 'Quay', issuer: at, clientId: 'chalk' },
    ...{ authAddress: `${at}/auth`, tokenAddress: `${at}/token`, keysAddress: `${at}/keys` },
  };
  const sites = {
    from: () => Promise.resolve(site),
    get: () => Promise.resolve(site),
    useOnce: () => Promise.resolve(true),
  } as unknown as SiteStore;
  const launches = new Launches(sites, new LinkSeal(Buffer.alloc(32, 3)));
  /** Somebody comes, signed for with a key. @returns who that is, or the code of why not */
  const comes = async (key: CryptoKey): Promise<string> => {
    const login = { iss: at, login_hint: 'bram' };
    const { to: address, secret } = await launches.begin(login, 'https://chalk.example/lti/launch');
    const to = new URL(address);
    const token = await new SignJWT({
      ...{ sub: 'bram', name: 'Bram Okafor', nonce: to.searchParams.get('nonce')! },
      [CLAIMS.type]: 'LtiResourceLinkRequest',
      [CLAIMS.version]: LTI_VERSION,
      [CLAIMS.deployment]: 'one',
      [CLAIMS.link]: { id: 'link-one' },
    })
      .setProtectedHeader({ alg: 'RS256', kid: 'key-one' })
      .setIssuer(at)
      .setAudience('chalk')
      .setIssuedAt()
      .setExpirationTime('5m')
      .sign(key);
    const begun = await launches.begun(to.searchParams.get('state')!);
    return launches.end(token, begun, [secret]).then(
      ({ person }) => person.name,
      ({ code }: { code: string }) => code,
    );
  };
  return comes;
};

it('asks for keys again where one was replaced under the same name, and not for each forged signature', async () => {
  const [first, second, forger] = [await keyPair(), await keyPair(), await keyPair()];
  const comes = open();
  shown = { keys: [first.jwk] };
  expect(await comes(first.privateKey)).toBe('Bram Okafor');
  shown = { keys: [second.jwk] };
  expect(await comes(second.privateKey)).toBe('Bram Okafor');
  const before = asked;
  for (let times = 0; times < 5; times++)
    expect(await comes(forger.privateKey)).toBe('launch-forged');
  expect(asked - before).toBeLessThanOrEqual(1);
});

it('reads no keys that are more or longer than keys can be', async () => {
  const { jwk, privateKey } = await keyPair();
  shown = { keys: Array.from({ length: 101 }, () => jwk) };
  expect(await open()(privateKey)).not.toBe('Bram Okafor');
  shown = `{"keys":[${JSON.stringify(jwk)}],"more":"${'x'.repeat(300_000)}"}`;
  expect(await open()(privateKey)).toBe('site-unreachable');
  shown = { keys: [jwk] };
  expect(await open()(privateKey)).toBe('Bram Okafor');
});
