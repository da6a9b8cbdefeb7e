import { z } from 'zod';
import { ProblemDetails } from './common.js';
import type { Endpoint } from './endpoints.js';

type Json = Record<string, unknown>;

/**
 * The OpenAPI 3.1 description of the endpoints. Schemas with an `id` become components; the JSON Schema dialect of
 * OpenAPI 3.1 is draft 2020-12, which Zod writes itself.
 */
export function openApiDocument(endpoints: Readonly<Record<string, Endpoint>>, version: string): Json {
  const schemas = new SchemaBook();
  const paths: Record<string, Json> = {};
  for (const [operationId, endpoint] of Object.entries(endpoints)) {
    (paths[`/api${endpoint.path}`] ??= {})[endpoint.method] = operation(operationId, endpoint, schemas);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Scriptum', version, description: 'Personalised papers for each learner of a roll.' },
    servers: [{ url: '/' }],
    paths,
    components: {
      schemas: schemas.all(),
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'scriptum.sid' } },
    },
  };
}

function operation(operationId: string, endpoint: Endpoint, schemas: SchemaBook): Json {
  const parameters: Json[] = [...endpoint.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  for (const [name, schema] of Object.entries(endpoint.query?.shape ?? {})) {
    const optional = (schema as z.ZodType).safeParse(undefined).success;
    parameters.push({
      name,
      in: 'query',
      required: !optional,
      schema: schemas.of(schema as z.ZodType, 'input'),
    });
  }
  const change = endpoint.method !== 'get';
  if (change)
    parameters.push({ name: 'X-CSRF-Token', in: 'header', required: true, schema: { type: 'string' } });
  const body = endpoint.body
    ? { content: { 'application/json': { schema: schemas.of(endpoint.body, 'input') } } }
    : endpoint.upload && { content: Object.fromEntries(endpoint.upload.map((type) => [type, {}])) };
  return {
    operationId,
    summary: endpoint.summary,
    ...(endpoint.open ? { security: [] } : { security: [{ session: [] }] }),
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(body ? { requestBody: { required: true, ...body } } : {}),
    responses: {
      200: {
        description: 'Done',
        content: endpoint.answer
          ? { 'application/json': { schema: schemas.of(endpoint.answer, 'output') } }
          : { [endpoint.answerType ?? 'application/octet-stream']: {} },
      },
      default: {
        description: 'Refused',
        content: { 'application/problem+json': { schema: schemas.of(ProblemDetails, 'output') } },
      },
    },
  };
}

/** Collects named schemas, so that each is described once. */
class SchemaBook {
  private readonly named: Record<string, unknown> = {};

  of(schema: z.ZodType, io: 'input' | 'output'): unknown {
    const json = z.toJSONSchema(schema, { io, unrepresentable: 'any', target: 'draft-2020-12' }) as Json;
    return this.lift(json, io);
  }

  all(): Record<string, unknown> {
    return this.named;
  }

  /** Moves `$defs` and the root's own name into the components and turns references to them. */
  private lift(json: Json, io: string): unknown {
    const { $schema: _, $defs, ...root } = json;
    const suffix = io === 'input' ? 'Input' : '';
    const turn = (node: unknown): unknown => {
      if (Array.isArray(node)) return node.map(turn);
      if (node === null || typeof node !== 'object') return node;
      // A schema's own name is a string; a property called id is a schema.
      const named = (key: string, value: unknown): boolean =>
        /^\$?id$/.test(key) && typeof value === 'string';
      return Object.fromEntries(
        Object.entries(node)
          .filter(([key, value]) => !named(key, value))
          .map(([key, value]) =>
            key === '$ref' && typeof value === 'string'
              ? [
                  key,
                  value === '#'
                    ? `#/components/schemas/${root['id']}${suffix}`
                    : value.replace(/^#\/\$defs\/(.+)$/, `#/components/schemas/$1${suffix}`),
                ]
              : [key, turn(value)],
          ),
      );
    };
    for (const [name, definition] of Object.entries(($defs as Json) ?? {})) {
      this.named[`${name}${suffix}`] ??= turn(definition);
    }
    if (typeof root['id'] !== 'string') return turn(root);
    this.named[`${root['id']}${suffix}`] ??= turn(root);
    return { $ref: `#/components/schemas/${root['id']}${suffix}` };
  }
}
