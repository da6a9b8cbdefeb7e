export {
  addressesOf,
  envelopesOf,
  recipientsOf,
  type Envelope,
  type Person,
  type Recipients,
} from './recipients.js';
export {
  answerKey,
  isReached,
  lackedColumns,
  LINK_DAYS,
  linkOf,
  OWN_LINK,
  passwordOf,
  passwordText,
  rightAnswer,
} from './along.js';
export { writeNote, type WrittenNote } from './write-note.js';
export { writingPlain } from './writing-plain.js';
