import type Router from '@koa/router';
import { ROSTER_SCOPE } from '@under-chalk/core/course-site/launch';
import { SCORE_SCOPE } from '@under-chalk/core/course-site/score';
import type { Context } from 'koa';
import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import type { Kept } from './kept';
import { joiningPage, toldPage, toolsPage } from './pages';
import { DEPLOYMENT } from './platform';
import { bodyOf, html, leaveIn, textOf, type Known } from './visit';

const TOOL = 'https://purl.imsglobal.org/spec/lti-tool-configuration';
const PLATFORM = 'https://purl.imsglobal.org/spec/lti-platform-configuration';

const registrationSchema = z.object({
  application_type: z.literal('web'),
  response_types: z.array(z.string()).refine((all) => all.includes('id_token')),
  grant_types: z.array(z.string()).refine((all) => all.includes('client_credentials')),
  initiate_login_uri: z.url(),
  redirect_uris: z.array(z.url()).min(1),
  client_name: z.string().min(1),
  jwks_uri: z.url(),
  token_endpoint_auth_method: z.literal('private_key_jwt'),
  scope: z.string(),
  [TOOL]: z.object({ domain: z.string(), target_link_uri: z.url() }),
});

/** How a tool joins by itself (LTI Dynamic Registration 1.0), once who teaches has let it. */
export const registration = (
  router: Router,
  { kept, known, url }: { kept: Kept; known: Known; url: () => string },
): void => {
  /** Tools that have been let join, and have not done so yet. */
  const allowed = new Set<string>();

  router.get(
    '/tools',
    known((ctx, who) => html(ctx, toolsPage(who, kept.now.tool))),
  );
  router.post(
    '/tools',
    known((ctx, who) => {
      const address = textOf(bodyOf(ctx)['address']).trim();
      if (!who.teaches || !/^https?:\/\//.test(address) || !URL.canParse(address))
        return html(ctx, toldPage('That is no address of a tool.', who));
      const leave = randomUUID();
      allowed.add(leave);
      const to = new URL(address);
      to.searchParams.set('openid_configuration', `${url()}/.well-known/openid-configuration`);
      to.searchParams.set('registration_token', leave);
      return html(ctx, joiningPage(who, to.href));
    }),
  );
  router.post(
    '/tools/forget',
    known(async (ctx, who) => {
      if (who.teaches) await kept.change({ tool: null });
      ctx.redirect('/tools');
    }),
  );

  router.get('/.well-known/openid-configuration', (ctx) => {
    ctx.body = {
      ...{ issuer: url(), authorization_endpoint: `${url()}/authorize` },
      ...{ token_endpoint: `${url()}/token`, jwks_uri: `${url()}/keys` },
      registration_endpoint: `${url()}/registrations`,
      token_endpoint_auth_methods_supported: ['private_key_jwt'],
      token_endpoint_auth_signing_alg_values_supported: ['RS256'],
      id_token_signing_alg_values_supported: ['RS256'],
      scopes_supported: ['openid', ROSTER_SCOPE, SCORE_SCOPE],
      response_types_supported: ['id_token'],
      subject_types_supported: ['public'],
      claims_supported: ['sub', 'iss', 'name', 'email'],
      [PLATFORM]: {
        ...{ product_family_code: 'practice-course-site', version: '1' },
        messages_supported: [
          { type: 'LtiResourceLinkRequest' },
          { type: 'LtiDeepLinkingRequest', placements: ['ContentArea'] },
        ],
        variables: [],
      },
    };
  });
  router.post('/registrations', async (raw) => {
    const ctx = raw as unknown as Context;
    const leave = leaveIn(ctx);
    if (!allowed.delete(leave)) ctx.throw(401);
    const read = registrationSchema.safeParse(bodyOf(ctx));
    if (!read.success) return ctx.throw(400);
    const told = read.data;
    const tool = {
      ...{ clientId: `tool-${randomUUID()}`, name: told.client_name, keys: told.jwks_uri },
      ...{ login: told.initiate_login_uri, redirects: told.redirect_uris },
      target: told[TOOL].target_link_uri,
    };
    await kept.change({ tool });
    ctx.body = {
      ...{ ...bodyOf(ctx), client_id: tool.clientId },
      [TOOL]: { ...told[TOOL], deployment_id: DEPLOYMENT },
    };
  });
};
