import type Router from '@koa/router';
import { ENDPOINTS } from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { problemSchema } from '@under-chalk/core/errors/errors';
import { createDocument, type ZodOpenApiPathsObject } from 'zod-openapi';
import type { On } from '../http/route';

export const VERSION = '0.1.0';

/** The API's description (OpenAPI 3.1), made from the contract that the routes themselves are bound to. */
export const openApiDocument = () => {
  const paths: ZodOpenApiPathsObject = {};
  for (const [name, endpoint] of Object.entries<Endpoint>(ENDPOINTS)) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = {
      ...paths[path],
      [endpoint.method]: {
        operationId: name,
        summary: endpoint.summary,
        ...(endpoint.from ? { security: [] } : {}),
        requestParams: {
          ...(endpoint.params ? { path: endpoint.params } : {}),
          ...(endpoint.query ? { query: endpoint.query } : {}),
        },
        ...(endpoint.body
          ? {
              requestBody: {
                required: true,
                content: { 'application/json': { schema: endpoint.body } },
              },
            }
          : {}),
        responses: {
          '200': {
            description: 'Done.',
            content: endpoint.answer
              ? { 'application/json': { schema: endpoint.answer } }
              : {
                  [endpoint.file ?? 'application/octet-stream']: {
                    schema: { type: 'string', format: 'binary' },
                  },
                },
          },
          default: {
            description: 'A problem, with a stable code, a sentence and what to do next.',
            content: { 'application/json': { schema: problemSchema } },
          },
        },
      },
    };
  }
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Under Chalk',
      version: VERSION,
      description: `Times are whole microseconds. Footage is sent by tus 1.0 at ${UPLOADS_PATH}.`,
    },
    security: [{ session: [] }],
    components: {
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'under-chalk-session' },
      },
    },
    paths,
  });
};

export const metaRoutes = (on: On, router: Router): void => {
  on('health', () => Promise.resolve({ ok: true as const, version: VERSION }));
  // Made when somebody asks first, and once: it takes longer than all other routes together.
  let text: string | null = null;
  router.get('/api/openapi.json', (ctx) => {
    ctx.type = 'json';
    ctx.body = text ??= JSON.stringify(openApiDocument());
  });
};
