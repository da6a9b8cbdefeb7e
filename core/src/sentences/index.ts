/** What core says to people: codes with parameters, and the catalogue that makes sentences of them. */
export {
  phrase,
  sameSaying,
  say,
  saying,
  type Catalogue,
  type Code,
  type Given,
  type ParametersOf,
} from './catalogue.js';
export { ENGLISH, megabytes } from './english/index.js';
export type { FileKind } from './english/files.js';
export { NAMED_MOST, someRows, type People, type Rows } from './english/grammar.js';
export type { Parameter, Say, Saying } from './saying.js';
