import { operations } from './api.ts';
import { Problem } from './platform/problem.ts';
import type { AnyOperation } from './platform/operation.ts';

/** The OpenAPI 3.1 document of the whole API. */
export function openApiDocument(version: string): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const { capability, operation } of operations) {
    const path = `/api${operation.path.replace(/:(\w+)/g, '{$1}')}`;
    (paths[path] ??= {})[operation.method] = describe(capability, operation);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Kindred Sheet',
      version,
      description: 'Project information exchange: models, drawings, issues, reviews and transmittals.',
    },
    servers: [{ url: '/' }],
    security: [{ token: [] }, { session: [] }],
    tags: [...new Set(operations.map(({ capability }) => capability))].map((name) => ({ name })),
    paths,
    components: {
      schemas: { Problem },
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer', description: 'A personal token.' },
        session: { type: 'apiKey', in: 'cookie', name: 'ks_session' },
      },
    },
  };
}

function describe(capability: string, operation: AnyOperation): Record<string, unknown> {
  const parameters = (['path', 'query'] as const).flatMap((place) => {
    const schema = place === 'path' ? operation.params : operation.query;
    const required = new Set(schema.required ?? []);
    return Object.entries(schema.properties).map(([name, type]) => ({
      name,
      in: place,
      required: place === 'path' || required.has(name),
      schema: type,
    }));
  });
  const hasBody = operation.body.type !== 'null';
  const nothing = operation.response.type === 'null' && !operation.binary;
  const content = operation.binary
    ? { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }
    : { 'application/json': { schema: operation.response } };
  return {
    operationId: operation.id,
    tags: [capability],
    summary: operation.summary,
    'x-access': operation.access,
    ...(operation.access === 'public' && { security: [] }),
    parameters,
    ...(hasBody && { requestBody: { required: true, content: { 'application/json': { schema: operation.body } } } }),
    responses: {
      [nothing ? 204 : 200]: nothing ? { description: 'Done' } : { description: 'Done', content },
      default: {
        description: 'A problem',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}
