import { SCORE_SCOPE } from './score';
import { chosenClaims, CLAIMS, readLaunch, readMembers, teaches } from './launch';

const ROLE = 'http://purl.imsglobal.org/vocab/lis/v2/membership#';
const claims = (more: object = {}) => ({
  ...{ sub: 'person-7', name: 'Bram Okafor', email: 'bram@lantern-quay.example' },
  [CLAIMS.version]: '1.3.0',
  [CLAIMS.deployment]: 'deployment-1',
  [CLAIMS.target]: 'https://chalk.example/lti/launch',
  [CLAIMS.roles]: [`${ROLE}Learner`],
  [CLAIMS.context]: { id: 'course-4', title: 'Coastal navigation' },
  [CLAIMS.type]: 'LtiResourceLinkRequest',
  [CLAIMS.link]: { id: 'link-1' },
  ...more,
});

it('tells who comes, from where, and what they want to open', () => {
  expect(readLaunch(claims({ [CLAIMS.custom]: { share_link: 'share-link-0123456789' } }))).toEqual({
    deployment: 'deployment-1',
    person: {
      ...{ sub: 'person-7', name: 'Bram Okafor', address: 'bram@lantern-quay.example' },
      isTeacher: false,
    },
    course: { id: 'course-4', title: 'Coastal navigation' },
    roster: null,
    does: { is: 'open', shareLinkId: 'share-link-0123456789', scores: null },
  });
});

it('takes the link from the address where a site keeps no values of its own, and nothing that can be none', () => {
  const to = (address: string) =>
    readLaunch(claims({ [CLAIMS.target]: address }))!.does as { shareLinkId: string | null };
  expect(to('https://chalk.example/lti/launch?share_link=share-link-0123456789').shareLinkId).toBe(
    'share-link-0123456789',
  );
  expect(to('https://chalk.example/lti/launch').shareLinkId).toBeNull();
  expect(to('https://chalk.example/lti/launch?share_link=../../etc').shareLinkId).toBeNull();
  expect(to('no address').shareLinkId).toBeNull();
});

it('knows who teaches by the vocabulary, and by the short names of some sites', () => {
  expect(teaches([`${ROLE}Learner`, `${ROLE}Instructor`])).toBe(true);
  expect(teaches(['Instructor'])).toBe(true);
  expect(teaches([`${ROLE}Learner`, `${ROLE}Mentor`])).toBe(false);
  // A person’s role in the whole school says nothing of this course.
  expect(teaches(['http://purl.imsglobal.org/vocab/lis/v2/institution/person#Instructor'])).toBe(
    false,
  );
});

it('puts a name together where there is no whole one, and takes no address that is none', () => {
  const of = (more: object) => readLaunch(claims({ name: undefined, ...more }))!.person;
  expect(of({ given_name: 'Noor', family_name: 'Halden' }).name).toBe('Noor Halden');
  expect(of({}).name).toBe('');
  expect(of({ email: 'nowhere' }).address).toBeNull();
});

it('is nothing where something is missing, or of another version', () => {
  for (const lack of [
    { sub: undefined },
    { [CLAIMS.version]: '1.1' },
    { [CLAIMS.deployment]: undefined },
    { [CLAIMS.link]: undefined },
    { [CLAIMS.type]: 'LtiSubmissionReviewRequest' },
  ])
    expect(readLaunch(claims(lack))).toBeNull();
  expect(readLaunch(null)).toBeNull();
});

it('tells where a choice goes back to, and takes no request for what isn’t to be had', () => {
  const choosing = (more: object = {}) =>
    claims({
      [CLAIMS.type]: 'LtiDeepLinkingRequest',
      [CLAIMS.link]: undefined,
      [CLAIMS.choosing]: {
        deep_link_return_url: 'https://site.example/back',
        accept_types: ['link', 'ltiResourceLink'],
        data: 'opaque',
        ...more,
      },
    });
  expect(readLaunch(choosing())!.does).toEqual({
    ...{ is: 'choose', returnTo: 'https://site.example/back', data: 'opaque' },
    takesScores: true,
  });
  expect(readLaunch(choosing({ accept_lineitem: false }))!.does).toMatchObject({
    takesScores: false,
  });
  expect(readLaunch(choosing({ accept_types: ['file'] }))).toBeNull();
  expect(readLaunch(choosing({ deep_link_return_url: 'javascript:alert(1)' }))).toBeNull();
});

it('reads who learns in a course, and leaves out who teaches, has left, or has no name', () => {
  const member = (user_id: string, more: object = {}) => ({
    ...{ user_id, name: `Name ${user_id}`, roles: [`${ROLE}Learner`] },
    ...more,
  });
  expect(
    readMembers({
      id: 'https://site.example/members',
      members: [
        member('1', { email: 'one@lantern-quay.example' }),
        member('2', { roles: [`${ROLE}Instructor`] }),
        member('3', { status: 'Inactive' }),
        member('4', { name: undefined }),
        member('5', { name: undefined, given_name: 'Pia' }),
        'nobody',
      ],
    }),
  ).toEqual([
    { sub: '1', name: 'Name 1', address: 'one@lantern-quay.example' },
    { sub: '5', name: 'Pia', address: null },
  ]);
  expect(readMembers({})).toBeNull();
});

it('answers with a link of ours that knows its link, and gives back what it was sent', () => {
  const chosen = {
    shareLinkId: 'share-link-0123456789',
    title: 'Tides',
    address: 'https://a.example/x',
    scores: null,
  };
  const told = chosenClaims(chosen, { deployment: 'deployment-1', data: 'opaque' });
  expect(told[CLAIMS.data]).toBe('opaque');
  expect(told[CLAIMS.chosen]).toMatchObject([
    {
      type: 'ltiResourceLink',
      url: 'https://a.example/x',
      custom: { share_link: chosen.shareLinkId },
    },
  ]);
  expect(told[CLAIMS.chosen]).not.toMatchObject([{ lineItem: {} }]);
  expect(CLAIMS.data in chosenClaims(chosen, { deployment: 'd', data: null })).toBe(false);
});

it('asks for a column where the course is told of scores, and knows it again', () => {
  const scores = { gives: 'questions', most: 3 } as const;
  const chosen = {
    ...{ shareLinkId: 'share-link-0123456789', title: 'Tides' },
    address: 'x',
    scores,
  };
  const told = chosenClaims(chosen, { deployment: 'deployment-1', data: null });
  const [item] = told[CLAIMS.chosen] as [{ custom: object; lineItem: object }];
  expect(item.lineItem).toEqual({
    ...{ label: 'Tides', scoreMaximum: 3, resourceId: chosen.shareLinkId, tag: 'questions' },
  });
  const lineitem = 'https://site.example/columns/7';
  const opened = (endpoint: object, custom: object = item.custom) => {
    const more = { [CLAIMS.custom]: custom, [CLAIMS.scores]: endpoint };
    return (readLaunch(claims(more))!.does as { scores: unknown }).scores;
  };
  const scope = [SCORE_SCOPE];
  expect(opened({ scope, lineitem })).toEqual({ gives: 'questions', lineItem: lineitem });
  // Without leave, or a column, or where its teacher didn’t want it, nothing is told.
  expect(opened({ scope: [], lineitem })).toBeNull();
  expect(opened({ scope })).toBeNull();
  expect(opened({ scope, lineitem: 'file:///etc/passwd' })).toBeNull();
  expect(opened({ scope, lineitem }, { share_link: chosen.shareLinkId })).toBeNull();
});
