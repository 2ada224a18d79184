import { ROSTER_SCOPE } from './launch';
import { readPlatform, registrationFor, siteOf } from './registration';
import { SCORE_SCOPE } from './score';
import { courseSiteSchema } from './site';

const FROM = 'https://site.example/.well-known/openid-configuration';
const told = (more: object = {}) => ({
  issuer: 'https://site.example',
  authorization_endpoint: 'https://login.site.example/authorize',
  token_endpoint: 'https://site.example/token',
  jwks_uri: 'https://site.example/keys',
  registration_endpoint: 'https://site.example/register',
  scopes_supported: ['openid', SCORE_SCOPE],
  ...more,
});

it('takes what a site says of itself, at its own host', () => {
  expect(readPlatform(told(), FROM)).toMatchObject({ issuer: 'https://site.example' });
  // Who speaks for another, or would send us elsewhere with our names, isn’t believed.
  expect(readPlatform(told(), 'https://elsewhere.example/openid')).toBeNull();
  expect(readPlatform(told({ issuer: 'https://elsewhere.example' }), FROM)).toBeNull();
  const takesInAt = (address: string) =>
    readPlatform(told({ registration_endpoint: address }), FROM);
  expect(takesInAt('https://join.site.example/register')).not.toBeNull();
  expect(takesInAt('http://127.0.0.1:9000/register')).toBeNull();
  for (const lack of [
    { jwks_uri: undefined },
    { token_endpoint: 'file:///etc/passwd' },
    { registration_endpoint: 'no address' },
    { issuer: '' },
  ])
    expect(readPlatform(told(lack), FROM)).toBeNull();
  expect(readPlatform('nothing', FROM)).toBeNull();
});

it('asks to be known by our addresses, for what the site can give and no more', () => {
  const asked = registrationFor(readPlatform(told(), FROM)!, 'https://chalk.example');
  expect(asked).toMatchObject({
    ...{ application_type: 'web', token_endpoint_auth_method: 'private_key_jwt' },
    initiate_login_uri: 'https://chalk.example/lti/login',
    redirect_uris: ['https://chalk.example/lti/launch'],
    jwks_uri: 'https://chalk.example/lti/keys',
    scope: SCORE_SCOPE,
  });
  const both = readPlatform(told({ scopes_supported: [SCORE_SCOPE, ROSTER_SCOPE] }), FROM)!;
  expect(registrationFor(both, 'https://chalk.example')['scope']).toBe(
    `${ROSTER_SCOPE} ${SCORE_SCOPE}`,
  );
});

it('knows the site by what it was given there', () => {
  const platform = readPlatform(told(), FROM)!;
  const site = siteOf(platform, { client_id: 'tool-7' }, 'site-0123456789abcdef');
  expect(site).toEqual({
    ...{ id: 'site-0123456789abcdef', name: 'site.example', issuer: 'https://site.example' },
    ...{ clientId: 'tool-7', authAddress: 'https://login.site.example/authorize' },
    ...{ tokenAddress: 'https://site.example/token', keysAddress: 'https://site.example/keys' },
  });
  expect(courseSiteSchema.parse(site)).toEqual(site);
  expect(siteOf(platform, { client_id: '' }, 'site-0123456789abcdef')).toBeNull();
});
