import type { z } from 'zod';
import { jsonSchemaOf } from './jsonSchema';
import { OPERATIONS, successOf } from './operations';
import type { Operation } from './operations';
import { PROBLEMS } from './problems';

type JsonSchema = Readonly<Record<string, unknown>>;

/**
 * The description of everything the server can be asked, as OpenAPI 3.1 has it: made from the same table as the routes. Schemas
 * with a name are told once, under `components`.
 */
export function openApi(): Readonly<Record<string, unknown>> & { openapi: string } {
  const schemas = new Map<string, JsonSchema>([['Problem', PROBLEM]]);
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [name, operation] of Object.entries(OPERATIONS) as [string, Operation][]) {
    const [method, path] = name.split(' ') as [string, string];
    const own = (paths[path.replace(PARAMETER, '{$1}')] ??= {});
    own[method.toLowerCase()] = described(name, path, operation, schemas);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Malle',
      version: '1',
      description:
        'The shared register of packs. Moments are whole milliseconds since 1970-01-01T00:00Z, volts whole millivolts. Whoever asks is signed in by the cookie that signing in sets.',
    },
    servers: [{ url: '/api' }],
    paths,
    components: {
      schemas: Object.fromEntries([...schemas].sort(([a], [b]) => a.localeCompare(b))),
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'malle.session' } },
    },
  };
}

const PARAMETER = /:(\w+)/g;

function described(name: string, path: string, operation: Operation, schemas: Map<string, JsonSchema>) {
  const { summary, action, body, bytes, answer } = operation;
  const content =
    typeof answer === 'string'
      ? { [answer]: {} }
      : answer && { 'application/json': { schema: schemaOf(answer, schemas) } };
  return {
    operationId: operationId(name),
    summary,
    ...(action
      ? { description: `Needs the right \`${action}\`.`, security: [{ session: [] }] }
      : { security: [] }),
    parameters: [...pathParameters(path), ...queryParameters(operation, schemas)],
    ...(body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(body, schemas) } },
          },
        }
      : {}),
    ...(bytes ? { requestBody: { required: true, content: { [bytes]: {} } } } : {}),
    responses: {
      [successOf(name, operation)]: { description: 'As asked.', ...(content ? { content } : {}) },
      default: {
        description: 'Why not.',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** `GET /packs/:id` is getPacksId. */
function operationId(name: string): string {
  const [method, ...words] = name.split(/[^a-zA-Z]+/).filter(Boolean);
  return [method!.toLowerCase(), ...words.map((word) => word[0]!.toUpperCase() + word.slice(1))].join('');
}

function pathParameters(path: string) {
  return [...path.matchAll(PARAMETER)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: name === 'id' ? { type: 'string', format: 'uuid' } : { type: 'string' },
  }));
}

function queryParameters({ query }: Operation, schemas: Map<string, JsonSchema>) {
  if (!query) return [];
  const { properties = {}, required = [] } = schemaOf(query, schemas) as {
    properties?: Readonly<Record<string, JsonSchema>>;
    required?: readonly string[];
  };
  return Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
}

/** A schema as JSON Schema; what has a name goes under `components`. */
function schemaOf(schema: z.ZodType, schemas: Map<string, JsonSchema>): JsonSchema {
  const {
    $defs = {},
    $schema: _dialect,
    ...own
  } = lifted(jsonSchemaOf(schema)) as JsonSchema & {
    $defs?: Readonly<Record<string, JsonSchema>>;
  };
  for (const [name, { id: _id, ...named }] of Object.entries($defs)) schemas.set(name, named);
  return own;
}

/** The same with every reference led to `components`. */
function lifted(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(lifted);
  if (typeof node !== 'object' || node === null) return node;
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => [
      key,
      key === '$ref' && typeof value === 'string'
        ? value.replace('#/$defs/', '#/components/schemas/')
        : lifted(value),
    ]),
  );
}

const PROBLEM: JsonSchema = {
  type: 'object',
  description: 'What was wrong, as RFC 9457 has it.',
  properties: {
    type: { enum: Object.keys(PROBLEMS).map((code) => `/problems/${code}`) },
    title: { type: 'string' },
    status: { enum: [...new Set(Object.values(PROBLEMS).map(({ status }) => status))] },
    detail: { type: 'string' },
    errors: {
      type: 'array',
      items: {
        type: 'object',
        properties: {
          field: { type: 'string', description: 'A path into the request, dots between.' },
          message: { type: 'string' },
        },
        required: ['field', 'message'],
      },
    },
  },
  required: ['type', 'title', 'status'],
};
