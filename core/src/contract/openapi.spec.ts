import { Validator } from '@seriousme/openapi-schema-validator';
import { ENDPOINTS, openApiDocument } from './index.js';

const document = openApiDocument(ENDPOINTS, '1.2.3') as {
  paths: Record<string, Record<string, { operationId: string }>>;
};

test('is valid OpenAPI 3.1 (checked with @seriousme/openapi-schema-validator)', async () => {
  const result = await new Validator().validate(document);
  expect(result.errors ?? []).toEqual([]);
  expect(result.valid).toBe(true);
});

test('describes every endpoint', () => {
  const ids = Object.values(document.paths).flatMap((path) =>
    Object.values(path).map(({ operationId }) => operationId),
  );
  expect(ids.sort()).toEqual(Object.keys(ENDPOINTS).sort());
});

test('references lead to what is there', () => {
  const text = JSON.stringify(document);
  const names = [...text.matchAll(/"#\/components\/schemas\/([^"]+)"/g)].map(([, name]) => name!);
  const { schemas } = (document as unknown as { components: { schemas: Record<string, unknown> } })
    .components;
  expect(names.length).toBeGreaterThan(20);
  for (const name of names) expect(schemas).toHaveProperty([name]);
});
