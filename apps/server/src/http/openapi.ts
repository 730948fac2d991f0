import { allEndpoints, failureSchema, failureStatus, isRaw, type NamedEndpoint } from '@sprig/contracts';
import { Router } from 'express';
import { z } from 'zod';

type Schema = Record<string, unknown>;

/** The form in which values cross: what goes in before it is read, what comes out as it is sent. */
const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): Schema => {
  const { $schema, ...rest } = z.toJSONSchema(schema, {
    io,
    unrepresentable: 'any',
    target: 'draft-2020-12',
  });
  return rest;
};

const propertiesOf = (schema: Schema) =>
  Object.entries((schema.properties ?? {}) as Record<string, Schema>).map(([name, own]) => ({
    name,
    schema: own,
    required: ((schema.required ?? []) as string[]).includes(name),
  }));

const json = (schema: Schema) => ({ 'application/json': { schema } });
const bytes = { type: 'string', format: 'binary' };

function operationOf({ group, name, endpoint }: NamedEndpoint) {
  const params = propertiesOf(schemaOf(endpoint.params, 'input'));
  const query = propertiesOf(schemaOf(endpoint.query, 'input'));
  const takesBody = endpoint.method !== 'GET';
  const body = isRaw(endpoint)
    ? endpoint.takes && { [endpoint.takes]: { schema: bytes } }
    : takesBody && json(schemaOf(endpoint.body, 'input'));
  return {
    operationId: name,
    tags: [group],
    'x-access': endpoint.access,
    parameters: [
      ...params.map((one) => ({ ...one, in: 'path', required: true })),
      ...query.map((one) => ({ ...one, in: 'query' })),
    ],
    ...(body ? { requestBody: { required: true, content: body } } : {}),
    responses: {
      200: {
        description: 'Done',
        content: isRaw(endpoint)
          ? { [endpoint.answers]: { schema: bytes } }
          : json(schemaOf(endpoint.answer, 'output')),
      },
      default: {
        description: 'Refused, in words for the user',
        content: json({ $ref: '#/components/schemas/Failure' }),
      },
    },
  };
}

/** Every call as OpenAPI 3.1, made from the definitions that both sides use. */
export function openApi() {
  const paths: Record<string, Record<string, ReturnType<typeof operationOf>>> = {};
  for (const one of allEndpoints) {
    const path = one.endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [one.endpoint.method.toLowerCase()]: operationOf(one) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Green Sprig',
      version: '1',
      description: `Calls of the web application. A refused call answers a failure with its code: ${Object.keys(failureStatus).join(', ')}.`,
    },
    paths,
    components: { schemas: { Failure: schemaOf(failureSchema, 'output') } },
  };
}

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

const STYLE = `body{font:15px/1.5 system-ui,sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;color:#1d2b1f;background:#fbfaf5}
h2{margin-top:2rem;border-bottom:1px solid #d6dccf}summary{cursor:pointer;padding:.25rem 0}summary b{display:inline-block;width:4.5rem}
form{display:flex;flex-direction:column;align-items:flex-start;gap:.4rem;margin:.5rem 0}textarea{width:100%;font:12.5px ui-monospace,monospace}
code{font:13px/1.5 ui-monospace,monospace}pre{background:#f1f0e7;padding:.75rem;overflow:auto;font-size:12.5px}i{color:#5c6a5b}`;

/** What `try-calls.js` has to know to try a call. A body begins with the fields that it needs. */
const callOf = (
  method: string,
  path: string,
  { parameters, requestBody }: ReturnType<typeof operationOf>,
) => {
  const schema = (requestBody?.content as Record<string, { schema: Schema }> | undefined)?.[
    'application/json'
  ]?.schema;
  const needed = schema ? ((schema.required ?? []) as string[]) : [];
  return {
    method: method.toUpperCase(),
    path,
    parameters: parameters.map(({ name, in: where, ...more }) => ({
      name,
      in: where,
      required: (more as { required?: boolean }).required ?? false,
    })),
    body: schema ? JSON.stringify(Object.fromEntries(needed.map((name) => [name, null])), null, 2) : null,
  };
};

/** The description of all calls as a page; a script of ours tries them. */
function openApiPage(api: ReturnType<typeof openApi>): string {
  const groups = new Map<string, string[]>();
  for (const [path, methods] of Object.entries(api.paths))
    for (const [method, operation] of Object.entries(methods)) {
      const { operationId, parameters, requestBody, responses } = operation;
      const details = { parameters, requestBody, answer: responses[200].content };
      const tag = operation.tags[0] as string;
      groups.set(tag, [
        ...(groups.get(tag) ?? []),
        `<details data-call="${escaped(JSON.stringify(callOf(method, path, operation)))}"><summary><b>${method.toUpperCase()}</b> <code>${escaped(path)}</code> ${escaped(operationId)} <i>${operation['x-access']}</i></summary><pre>${escaped(JSON.stringify(details, null, 2))}</pre></details>`,
      ]);
    }
  const sections = [...groups].map(([tag, lines]) => `<h2>${escaped(tag)}</h2>${lines.join('\n')}`);
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Green Sprig: calls</title><style>${STYLE}</style><h1>Calls</h1><p>${escaped(api.info.description)} As <a href="/api/openapi.json">OpenAPI 3.1</a>. The word behind each call is what who asks must be allowed to do.</p><p data-try></p>${sections.join('\n')}<script src="/try-calls.js" defer></script></html>`;
}

export const openApiRoutes = (): Router => {
  const router = Router();
  let made: { json: string; page: string } | null = null;
  const make = () => {
    if (made) return made;
    const api = openApi();
    made = { json: JSON.stringify(api), page: openApiPage(api) };
    return made;
  };
  router.get('/api/openapi.json', (_request, response) => response.type('json').send(make().json));
  router.get('/api/docs', (_request, response) => response.type('html').send(make().page));
  return router;
};
