import type Joi from 'joi';
import { ERROR_STATUS, type ErrorCode } from './errors';
import * as rules from './rules';
import { ROUTES, type Route } from './routes';

type Json = Record<string, unknown>;

/** Refusals that any route may answer with. */
const ANYWHERE: readonly ErrorCode[] = ['invalid', 'password-needed', 'forbidden', 'too-many', 'internal', 'database-away', 'store-away', 'disk-full'];

const schemaOf = (rule: Joi.Schema, way: 'input' | 'output'): Json => {
  const { $schema: _, ...schema } = rule['~standard'].jsonSchema[way]({ target: 'draft-2020-12' });
  return schema;
};

/** Rules that have a name of their own in the description. */
const NAMED = new Map<Joi.Schema, string>(
  (
    [
      'Medium',
      'Shot',
      'ReelHead',
      'ReelSummary',
      'Reel',
      'Bin',
      'Print',
      'Machine',
      'Reference',
      'StoredPlate',
      'StoredTable',
      'StoredFont',
      'StoredLook',
      'LookKept',
      'PrintOrder',
      'CardOrder',
      'CutOrder',
      'ReelCut',
      'LookChange',
      'SequenceOrder',
    ] as const
  ).map((name) => [rules[name] as Joi.Schema, name]),
);

const refOrSchema = (rule: Joi.Schema, way: 'input' | 'output'): Json => (NAMED.has(rule) ? { $ref: `#/components/schemas/${NAMED.get(rule)}` } : schemaOf(rule, way));

function answerOf({ answer }: Route): Json {
  if ('json' in answer) return { description: 'As asked', content: { 'application/json': { schema: refOrSchema(answer.json, 'output') } } };
  if ('types' in answer) return { description: 'As asked', content: Object.fromEntries(answer.types.map((type) => [type, {}])) };
  return { description: 'Done' };
}

/** Refusals by status; several codes may share one. */
function refusalsOf({ refusals, body, method }: Route): Json {
  const writes = method === 'GET' ? [] : (['gone-meanwhile'] as const);
  const codes = [...new Set([...refusals, ...ANYWHERE, ...writes, ...(body ? (['too-large'] as const) : [])])];
  const byStatus = new Map<number, ErrorCode[]>();
  for (const code of codes) byStatus.set(ERROR_STATUS[code], [...(byStatus.get(ERROR_STATUS[code]) ?? []), code]);
  return Object.fromEntries(
    [...byStatus].map(([status, of]) => [
      status,
      {
        description: of.join(', '),
        content: {
          'application/json': {
            schema: { allOf: [{ $ref: '#/components/schemas/Error' }, { properties: { error: { properties: { code: { enum: of } } } } }] },
          },
        },
      },
    ]),
  );
}

function operationOf(name: string, route: Route): Json {
  const inPath = [...route.path.matchAll(/:(\w+)/g)].map(([, key]) => ({
    name: key,
    in: 'path',
    required: true,
    schema: key === 'n' ? { type: 'integer', minimum: 0 } : { type: 'string' },
  }));
  const inQuery = Object.entries(route.query ?? {}).map(([key, description]) => ({ name: key, in: 'query', description, schema: { type: 'string' } }));
  const requestBody = route.body
    ? { required: true, content: { 'application/json': { schema: refOrSchema(route.body, 'input') } } }
    : route.text
      ? { required: true, description: route.text, content: { 'text/plain': { schema: { type: 'string' } } } }
      : route.bytes
        ? { required: true, description: route.bytes, content: { 'application/octet-stream': {} } }
        : undefined;
  return {
    operationId: name,
    tags: [route.group],
    summary: route.says,
    ...(inPath.length + inQuery.length ? { parameters: [...inPath, ...inQuery] } : {}),
    ...(requestBody ? { requestBody } : {}),
    responses: { [route.answer.status]: answerOf(route), ...refusalsOf(route) },
  };
}

/**
 * The whole interface of the server, as OpenAPI 3.1 has it (https://spec.openapis.org/oas/v3.1.0); its schemas are JSON Schema 2020-12.
 * @param version of the product
 */
export function openapi(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [name, route] of Object.entries(ROUTES)) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method.toLowerCase()] = operationOf(name, route);
  }
  const schemas = Object.fromEntries([
    ...[...NAMED].map(([rule, name]) => [name, schemaOf(rule, name.endsWith('Order') || name === 'LookChange' ? 'input' : 'output')]),
    ['Error', schemaOf(rules.ErrorRule, 'output')],
  ]);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tin Ghost',
      version,
      license: { name: 'Apache-2.0', identifier: 'Apache-2.0' },
      description: 'Answers the machine it runs on only, and its own pages only. Files are uploaded by the tus protocol (1.0) at /api/uploads.',
    },
    servers: [{ url: '/api' }],
    tags: [...new Set(Object.values(ROUTES).map(({ group }) => group))].map((name) => ({ name })),
    paths,
    components: { schemas },
  };
}
