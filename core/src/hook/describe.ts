/**
 * What a hook takes, as an OpenAPI 3.1 document: for whoever writes the other side.
 *
 * @param address of the application.
 */
export function hookDescription(address: string, version: string): Record<string, unknown> {
  const problem = (description: string): Record<string, unknown> => ({
    description,
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  });
  const schema = { $ref: '#/components/schemas/Submission' };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Answers from other services',
      version,
      description:
        'Each request brings one submission. It is signed: the signature is HMAC-SHA-256 (RFC 2104), in hexadecimal, of the time, a full stop and the bytes of the body, with the key of the hook.',
    },
    servers: [{ url: address }],
    paths: {
      '/h/{token}': {
        post: {
          operationId: 'submit',
          summary: 'Bring one submission',
          parameters: [
            {
              name: 'token',
              in: 'path',
              required: true,
              schema: { type: 'string', pattern: '^[0-9a-f]{24}$' },
            },
            {
              name: 'Scriptum-Time',
              in: 'header',
              required: true,
              description: 'Seconds since 1970 (POSIX), at most five minutes off.',
              schema: { type: 'string', pattern: '^\\d{9,12}$' },
            },
            {
              name: 'Scriptum-Signature',
              in: 'header',
              required: true,
              description: 'One signature, or several with commas between them while keys change.',
              schema: { type: 'string', pattern: '^[0-9a-f]{64}(, ?[0-9a-f]{64})*$' },
            },
            {
              name: 'Idempotency-Key',
              in: 'header',
              required: false,
              description: 'What tells this submission from others; its body where nothing is said.',
              schema: { type: 'string', minLength: 1, maxLength: 200 },
            },
          ],
          requestBody: {
            required: true,
            content: {
              'application/json': { schema },
              'application/x-www-form-urlencoded': { schema },
            },
          },
          responses: {
            200: {
              description: 'It is kept, now or by an earlier request.',
              content: { 'application/json': { schema: { $ref: '#/components/schemas/Kept' } } },
            },
            400: problem('It cannot be read.'),
            401: problem('Its signature is wrong, or its time is too far off.'),
            404: problem('There is no such hook.'),
            409: problem('The hook is closed.'),
            413: problem('It is too large.'),
            422: problem('It cannot be taken as it is.'),
            429: problem('Too many requests.'),
          },
        },
      },
    },
    components: {
      schemas: {
        Submission: {
          type: 'object',
          minProperties: 1,
          description:
            'Answers by their names. Objects may stand in objects, several answers are a list, and a list of questions with their answers is read as such.',
          additionalProperties: { $ref: '#/components/schemas/Answer' },
        },
        Answer: {
          anyOf: [
            { type: ['string', 'number', 'boolean', 'null'] },
            { type: 'array', items: { $ref: '#/components/schemas/Answer' } },
            { type: 'object', additionalProperties: { $ref: '#/components/schemas/Answer' } },
          ],
        },
        Kept: {
          type: 'object',
          required: ['kept', 'again'],
          properties: {
            kept: { const: true },
            again: { type: 'boolean', description: 'It was there already; nothing was added.' },
          },
        },
        Problem: {
          type: 'object',
          required: ['type', 'title', 'status', 'detail', 'code'],
          description: 'Problem details (RFC 9457)',
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            code: { type: 'string' },
          },
        },
      },
    },
  };
}
