import { POPULAR_DOMAINS } from '@zootools/email-spell-checker';
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import fc from 'fast-check';
import { readCsv } from '../table/index.js';
import { applyPatch, makeRoll, markNameColumns, patchOf, type Roll } from '../roll/index.js';
import {
  findDuplicates,
  mendLookAlikes,
  offerPatch,
  orderName,
  readPreferred,
  readSurnameFirst,
  repairAddress,
  severalAddresses,
  tidyOffers,
  tidySpaces,
} from './index.js';

let count = 0;
const newId = (): string => `t${++count}`;
function rollOf(csv: string): Roll {
  const read = readCsv(new TextEncoder().encode(csv), newId);
  if (!read.ok) throw new Error(read.problem.message);
  const columns = markNameColumns(read.value.columns.map((column) => ({ ...column, sourceId: 's' })));
  return makeRoll({ ...read.value, columns }, newId);
}
const none = new Map<string, number>();

/** The sample names of CLDR's person-name data (npm cldr-person-names-full), by locale. */
const folder = path.join(
  path.dirname(createRequire(import.meta.url).resolve('cldr-person-names-full/package.json')),
  'main',
);
interface SampleNames {
  main: Record<string, { personNames: { sampleName?: Record<string, Record<string, string>> } }>;
}
const samples = readdirSync(folder).flatMap((locale) => {
  const file = JSON.parse(readFileSync(path.join(folder, locale, 'personNames.json'), 'utf8')) as SampleNames;
  const names = file.main[locale]?.personNames.sampleName ?? {};
  return Object.values(names).map((name) => ({ locale, ...name }) as Record<string, string>);
});

describe('names of people (Unicode CLDR person-name data)', () => {
  const parts = samples.flatMap((name) =>
    [name['given'], name['given2'], name['surname'], name['surname-core']].filter(
      (part): part is string => !!part && part !== '∅∅∅',
    ),
  );
  test('there are many', () => expect(new Set(parts).size).toBeGreaterThan(500));
  test('a name that is written with care stays as it is', () => {
    const cased = [...new Set(parts)].filter((part) => /^\p{Lu}/u.test(part) && /\p{Ll}/u.test(part));
    const changed = cased.filter(
      (part) =>
        orderName(part) !== part || tidySpaces(part) !== part.normalize('NFC').replace(/\s+/g, ' ').trim(),
    );
    // Written small on purpose at the end; offered, but never ticked.
    expect(changed).toEqual(['Салауат улы', 'Mari shu']);
  });
  test('a simple name in capitals comes back as it was', () => {
    const simple = [
      ...new Set(
        samples
          .filter(({ locale }) => !/^(?:tr|az|lt|el|nl|ga|gd|ka)/.test(locale ?? ''))
          .map((name) => name['given']),
      ),
    ].filter((part): part is string => !!part && /^\p{Lu}\p{Ll}{2,}$/u.test(part.normalize('NFC')));
    const lost = simple.filter(
      (part) => orderName(part.normalize('NFC').toUpperCase()) !== part.normalize('NFC'),
    );
    // A sharp s has no single capital; what begins like an IJ or a Mc is taken for one.
    expect(lost.filter((part) => !/ß|^Ij|^Mc/i.test(part))).toEqual([]);
  });
  test('scripts without capitals stay', () => {
    for (const name of ['محمد السعدي', '王小明', 'נועם בן-ארי', 'अनन्या शर्मा', '김서연'])
      expect(orderName(name)).toBe(name);
  });
});

describe('capitals (common practice, no published source)', () => {
  test.each([
    ["o'neil", "O'Neil"],
    ['O’NEIL', 'O’Neil'],
    ['VAN DER BERG', 'van der Berg', 'surname'],
    ['JAN VAN DER BERG', 'Jan van der Berg'],
    ['MCLEOD', 'McLeod'],
    ['macdonald', 'MacDonald'],
    ['MACHADO', 'Machado'],
    ['anne-marie SMITH-JONES', 'Anne-Marie Smith-Jones'],
    ['J.K. ROWE', 'J.K. Rowe'],
    ['j. rowe', 'J. Rowe'],
    ['ilse BRANDT', 'Ilse Brandt'],
    ['JAMES SMITH III', 'James Smith III'],
    ['IJSBRAND', 'IJsbrand'],
    ['D’ARCY', 'D’Arcy'],
    ['MARIA DOS SANTOS', 'Maria dos Santos'],
    ['VAN ANH', 'Van Anh', 'given name'],
    ['ΓΕΩΡΓΊΟΣ', 'Γεωργίος'],
  ] as const)('%s is %s', (text, name, part: 'name' | 'given name' | 'surname' = 'name') =>
    expect(orderName(text, part)).toBe(name),
  );
  test.each([
    'Eun-ji',
    'ap Gwilym',
    'Ludwig van Beethoven',
    'DeShawn',
    'Ó Fiannachta',
    'JR',
    'Li',
    'Mary McLeod',
    'de la Cruz',
  ])('%s stays', (name) =>
    expect(orderName(name, name === 'ap Gwilym' || name === 'de la Cruz' ? 'surname' : 'name')).toBe(name),
  );
});

describe('spaces and what nobody sees', () => {
  test.each([
    ['  Amara \u00a0 Okonjo ', 'Amara Okonjo'],
    ['Zo\u200be\u0308', 'Zoë'],
    ['\ufeffIlse\u00ad', 'Ilse'],
    ['\u200fמשה\u200f', 'משה'],
    ['a\r\nb \n\n', 'a\nb'],
    // Joiners that Persian and emoji need stay (Unicode Standard, 23.2).
    ['می\u200cخواهم', 'می\u200cخواهم'],
    ['👩\u200d🏫', '👩\u200d🏫'],
  ])('%j is %j', (text, tidy) => expect(tidySpaces(text)).toBe(tidy));
  test('tidying twice is tidying once (property)', () => {
    const text = fc.string({
      unit: fc.constantFrom('a', 'Ä', ' ', '\u00a0', '\u200d', '\u200e', '\u200b', '\n', 'e\u0301', 'ب'),
      maxLength: 20,
    });
    fc.assert(
      fc.property(text, (given) => expect(tidySpaces(tidySpaces(given))).toBe(tidySpaces(given))),
      { numRuns: 500 },
    );
  });
});

describe('letters that look like others (Unicode UTS #39, confusables)', () => {
  test.each([
    ['Аmara', 'Amara'],
    ['Оkоnjо', 'Okonjo'],
    ['Сергей', 'Сергей'],
    ['Cергей', 'Сергей'],
    ['Anna Иванова', 'Anna Иванова'],
  ])('%s is %s', (text, mended) => expect(mendLookAlikes(text)).toBe(mended));
});

describe('preferred names, and surnames first', () => {
  test.each([
    ['Wilhelmina (Mina) Brandt', 'Wilhelmina Brandt', 'Mina', 'Mina Brandt'],
    ['Wilhelmina Brandt (Mina)', 'Wilhelmina Brandt', 'Mina', 'Mina Brandt'],
    ['“Bo” Li', 'Li', 'Bo', 'Bo Li'],
    ['Wilhelmina [known as Mina]', 'Wilhelmina', 'Mina', 'Mina'],
  ])('%s', (text, full, preferred, known) => expect(readPreferred(text)).toEqual({ full, preferred, known }));
  test.each(['Amara (8B)', 'Sam (they/them)', 'Amara (leaver)', 'Amara', '(Mina)'])('%s has none', (text) =>
    expect(readPreferred(text)).toBeNull(),
  );
  test('Brandt, Ilse', () => {
    expect(readSurnameFirst('van der Berg,  Jan ')).toEqual({ given: 'Jan', surname: 'van der Berg' });
    for (const text of ['Brandt, Ilse, 8B', 'Smith, Jr.', 'Brandt', ', Ilse'])
      expect(readSurnameFirst(text)).toBeNull();
  });
});

describe('addresses', () => {
  const counts = new Map([['thistlequay.example', 40]]);
  test.each([
    ['brandt .family@thistlequay.example', 'brandt.family@thistlequay.example'],
    ['brandt@thistlequay,example', 'brandt@thistlequay.example'],
    ['<brandt@thistlequay.example>', 'brandt@thistlequay.example'],
    ['Kaja Brandt <brandt@thistlequay.example>', 'brandt@thistlequay.example'],
    ['mailto:brandt@thistlequay.example', 'brandt@thistlequay.example'],
    ['brandt@@thistlequay.example.', 'brandt@thistlequay.example'],
    ['brandt (at) thistlequay.example', 'brandt@thistlequay.example'],
    ['brandt@thistlequay', 'brandt@thistlequay.example'],
    ['brandt@thistelquay.example', 'brandt@thistlequay.example'],
    ['brandt@thistlequy.example', 'brandt@thistlequay.example'],
    ['brandt@families.con', 'brandt@families.com'],
  ])('%s becomes %s', (text, address) => expect(repairAddress(text, counts)?.text).toBe(address));
  test.each(['brandt@thistlequay.example', 'brandt', '', 'a@x.example, b@x.example', 'brandt@other.example'])(
    '%j stays',
    (text) => expect(repairAddress(text, counts)).toBeNull(),
  );
  test('a domain that two families have is no error', () => {
    const two = new Map([...counts, ['thistlequey.example', 2]]);
    expect(repairAddress('a@thistlequey.example', two)).toBeNull();
  });
  test('domains that many have stay, and one letter more or less is put right', () => {
    for (const domain of POPULAR_DOMAINS) {
      expect(repairAddress(`brandt@${domain}`, none)).toBeNull();
      if (domain.length < 10) continue;
      const short = `${domain[0]}${domain.slice(2)}`;
      if (!POPULAR_DOMAINS.includes(short))
        expect([domain, repairAddress(`brandt@${short}`, none)?.text]).toEqual([domain, `brandt@${domain}`]);
    }
  });
  test('several in one cell', () => {
    expect(severalAddresses('a@x.example; b@x.example and c@x.example')).toEqual([
      'a@x.example',
      'b@x.example',
      'c@x.example',
    ]);
    expect(severalAddresses('a@x.example')).toBeNull();
    expect(severalAddresses('a@x.example, ask Anna')).toBeNull();
    expect(repairAddress('a@x.example', none)).toBeNull();
  });
});

test('rows that are blank still are nobody, and nobody twice', () => {
  const columns = [{ id: 'name', title: 'Name' }];
  const entries = [{}, {}, { name: ' ' }].map((values, n) => ({ id: `e${n}`, position: n, values }));
  expect(findDuplicates({ columns, entries } as Roll)).toEqual([]);
});

describe('offers', () => {
  const CSV = `Name,Class,Guardian email
" ILSE BRANDT",8A,brandt .family@families.example
Wilhelmina (Mina) van der Veldt,8A,a@families.example; b@families.example
Amara Okonjo,8B,okonjo@families.example
Amara Okonjo,8B,okonjo@families.example
Amara Okonjoh,8B,okonjo@families.example
Bo Okonjo,8C,okonjo@families.example
Amara Okonjo,8C,other@families.example
`;
  const take = (roll: Roll, id: string, all = false): Roll => {
    const offer = tidyOffers(roll, newId).find((one) => one.id.startsWith(id))!;
    const way = offer.ways[0]!;
    const chosen = new Set(way.lines.filter(({ certain }) => all || certain).map(({ entryId }) => entryId));
    const result = applyPatch(roll, patchOf(offerPatch(roll, way, chosen), roll));
    if (!result.ok) throw new Error(result.problem.message);
    return result.value.roll;
  };
  test('each says what is now and what will be, for every entry that it touches', () => {
    const offers = tidyOffers(rollOf(CSV), newId);
    expect(offers.map(({ id, ways }) => [id.split(' ')[0], ways[0]!.lines.length])).toEqual([
      ['spaces', 1],
      ['preferred', 1],
      ['capitals', 1],
      ['several', 1],
      ['address', 1],
      ['duplicates', 2],
    ]);
    expect(offers[1]!.ways.map(({ id }) => id)).toEqual(['own', 'use', 'drop']);
  });
  test('an offer that was taken in full is not made again', () => {
    let roll = rollOf(CSV);
    for (const id of ['spaces', 'preferred', 'capitals', 'several', 'address', 'duplicates'])
      roll = take(roll, id, true);
    expect(tidyOffers(roll, newId)).toEqual([]);
    expect(roll.columns.map(({ title }) => title)).toEqual([
      'Name',
      'Preferred name',
      'Class',
      'Guardian email',
      'Guardian email 2',
    ]);
  });
  test('the same row is certain; a near name at one address is not; brothers, sisters and namesakes are let be', () => {
    const roll = take(rollOf(CSV), 'duplicates');
    expect(roll.entries.map(({ leftOut }) => leftOut !== undefined)).toEqual([
      false,
      false,
      false,
      true,
      false,
      false,
      false,
    ]);
    const both = take(rollOf(CSV), 'duplicates', true);
    expect(both.entries.filter(({ leftOut }) => leftOut)).toHaveLength(2);
  });
});
