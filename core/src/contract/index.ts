export * from './common.js';
export * from './endpoints.js';
export * from './folio.js';
export { openApiDocument } from './openapi.js';
export * from './practice-post.js';
export * from './register.js';
export * from './roll.js';
export * from './staff.js';
export * from './writing.js';
