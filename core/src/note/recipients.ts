import { addressKey, readAddresses, type AddressesReading } from '../column/index.js';
import { valueOf, type Entry } from '../roll/index.js';
import type { CoverNote, Recipient } from '../template/index.js';

/** Somebody who is written to. */
export interface Person {
  readonly address: string;
  /** Blank where nothing says it. */
  readonly name: string;
}

/** Who is written to of one entry. */
export interface Recipients {
  readonly to: readonly Person[];
  readonly cc: readonly Person[];
  readonly bcc: readonly Person[];
  readonly replyTo: Person | null;
}

/** Kept for as long as an entry stays the same: a large roll changes a cell at a time. */
const readings = new WeakMap<Entry, Map<string, AddressesReading>>();

/** The addresses in a cell. */
export function addressesOf(entry: Entry, columnId: string): AddressesReading {
  let own = readings.get(entry);
  if (!own) readings.set(entry, (own = new Map()));
  let reading = own.get(columnId);
  if (!reading) own.set(columnId, (reading = readAddresses(valueOf(entry, columnId))));
  return reading;
}

function people(entry: Entry, list: readonly Recipient[]): Person[] {
  const found = new Map<string, Person>();
  const add = (address: string, name: string): void => {
    if (!found.has(addressKey(address))) found.set(addressKey(address), { address, name });
  };
  for (const one of list) {
    if ('address' in one) {
      for (const address of readAddresses(one.address).addresses) add(address, '');
      continue;
    }
    const { addresses } = addressesOf(entry, one.columnId);
    // Of several addresses in one cell it is not known whose the name is.
    const name = one.nameId && addresses.length === 1 ? valueOf(entry, one.nameId).trim() : '';
    for (const address of addresses) add(address, name);
  }
  return [...found.values()];
}

const without = (list: readonly Person[], others: readonly Person[]): Person[] =>
  list.filter(({ address }) => !others.some((other) => addressKey(other.address) === addressKey(address)));

/** Who gets an entry's message; each address once, where it is seen best. */
export function recipientsOf(note: CoverNote, entry: Entry): Recipients {
  const to = people(entry, note.to);
  const cc = without(people(entry, note.cc ?? []), to);
  const bcc = without(people(entry, note.bcc ?? []), [...to, ...cc]);
  return { to, cc, bcc, replyTo: note.replyTo ? (people(entry, [note.replyTo])[0] ?? null) : null };
}

/** One message: the learners that it is about, in the order of the roll, and who gets it. */
export interface Envelope extends Recipients {
  readonly entries: readonly Entry[];
}

/**
 * The messages of some entries, in their order. Entries that nobody can be written to for have none.
 *
 * @param entries in the order of the roll.
 */
export function envelopesOf(note: CoverNote, entries: readonly Entry[]): Envelope[] {
  const envelopes = new Map<string, Envelope>();
  for (const entry of entries) {
    const { to: all, ...rest } = recipientsOf(note, entry);
    for (const to of note.apart ? all.map((one) => [one]) : all.length > 0 ? [all] : []) {
      const addresses = to.map(({ address }) => addressKey(address)).sort();
      const key = JSON.stringify([addresses, note.family ? '' : entry.id]);
      envelopes.set(key, joined(envelopes.get(key), { ...rest, to, entries: [entry] }));
    }
  }
  return [...envelopes.values()];
}

/** An envelope that another entry is put in too. */
function joined(one: Envelope | undefined, more: Envelope): Envelope {
  if (!one) return more;
  const cc = without([...one.cc, ...without(more.cc, one.cc)], one.to);
  const bcc = without([...one.bcc, ...without(more.bcc, one.bcc)], [...one.to, ...cc]);
  const nameOf = (address: string): string =>
    more.to.find((other) => addressKey(other.address) === addressKey(address))?.name ?? '';
  return {
    entries: [...one.entries, ...more.entries],
    to: one.to.map(({ address, name }) => ({ address, name: name || nameOf(address) })),
    cc,
    bcc,
    replyTo: one.replyTo ?? more.replyTo,
  };
}
