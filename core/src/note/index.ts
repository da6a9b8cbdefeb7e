export {
  addressesOf,
  envelopesOf,
  recipientsOf,
  type Envelope,
  type Person,
  type Recipients,
} from './recipients.js';
export { writeNote, type WrittenNote } from './write-note.js';
export { writingPlain } from './writing-plain.js';
