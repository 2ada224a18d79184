import { courseSiteSchema, isOfSite, nameOfSite, siteAddressSchema } from './site';

const SITE = {
  ...{ id: 'site-0123456789', name: 'Quay courses', issuer: 'https://site.example', clientId: '7' },
  ...{ authAddress: 'https://site.example/a', tokenAddress: 'https://site.example/t' },
  keysAddress: 'https://site.example/k',
};

it('takes addresses of the web, and none with a name in it; what is half typed is only wrong', () => {
  expect(courseSiteSchema.safeParse(SITE).success).toBe(true);
  for (const keysAddress of [
    ...['', 'ht', 'https://', 'site.example/k', 'file:///etc/passwd', 'javascript:alert(1)'],
    'https://somebody@site.example/k',
  ])
    expect([keysAddress, courseSiteSchema.safeParse({ ...SITE, keysAddress }).success]).toEqual([
      ...[keysAddress, false],
    ]);
});

const joined = {
  ...{ id: 'site-one', name: 'Quay', issuer: 'https://quay.example', clientId: 'chalk' },
  authAddress: 'https://login.quay.example/auth',
  tokenAddress: 'https://login.quay.example/token',
  keysAddress: 'https://keys.quay.example/jwks',
};

it.each([
  ['https://quay.example/courses/4/columns/7', true],
  ['https://login.quay.example/members', true],
  ['https://quay.example.evil.example/columns/7', false],
  ['https://evil.example/columns/7', false],
  ['https://quay.example:8443/columns/7', false],
  ['http://quay.example/columns/7', false],
  ['https://quay.example@evil.example/columns/7', false],
  ['nowhere', false],
])('knows whether %s is an address of the site', (address, isIts) =>
  expect(isOfSite(joined, address)).toBe(isIts),
);

it('takes no address with a name or a password in it', () => {
  const takes = (address: string) => siteAddressSchema.safeParse(address).success;
  expect(takes('https://quay.example/token')).toBe(true);
  expect(takes('https://bram@quay.example/token')).toBe(false);
  expect(takes('https://:secret@quay.example/token')).toBe(false);
});

it('calls a site by its host, in as many characters as a name may have', () => {
  expect(nameOfSite('https://quay.example:8443/lms')).toBe('quay.example:8443');
  expect(nameOfSite(`https://${'a.'.repeat(90)}example`)).toHaveLength(120);
});
