import { courseSiteSchema } from './site';

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
