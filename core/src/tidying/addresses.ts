import { DEFAULT_CONFIG } from '@zootools/email-spell-checker/dist/lib/config/index.js';
import { distance } from 'fastest-levenshtein';
import { readAddress, readAddresses } from '../column/index.js';

const { domains, secondLevelDomains, topLevelDomains } = DEFAULT_CONFIG;
/** The largest providers under all their endings, but for those that are a typing error of com. */
const underEndings = (names: readonly string[]): string[] =>
  names.flatMap((name) =>
    topLevelDomains.filter((ending) => distance(ending, 'com') !== 1).map((ending) => `${name}.${ending}`),
  );
/** Domains that many families have their mail at; short names are too close to others to be what was meant. */
const COMMON_DOMAINS: readonly string[] = [
  ...domains,
  ...underEndings(secondLevelDomains.filter((name) => name.length > 4)),
];
/** Domains that exist, and are no error. */
const KNOWN_DOMAINS: ReadonlySet<string> = new Set([...COMMON_DOMAINS, ...underEndings(secondLevelDomains)]);
/** Endings that are typing errors of com, org, net, which no registry hands out. */
const ENDINGS: Readonly<Record<string, string>> = {
  con: 'com',
  cmo: 'com',
  ocm: 'com',
  comm: 'com',
  vom: 'com',
  xom: 'com',
  ogr: 'org',
  orgg: 'org',
  nte: 'net',
  nett: 'net',
};

/** How often each domain stands in a column, small letters. */
export function domainCounts(cells: Iterable<string>): Map<string, number> {
  const counts = new Map<string, number>();
  for (const cell of cells) {
    const reading = readAddress(cell);
    if (reading.kind !== 'address') continue;
    const domain = reading.address.split('@')[1]!.toLowerCase();
    counts.set(domain, (counts.get(domain) ?? 0) + 1);
  }
  return counts;
}

/**
 * An address with a typing error put right, or null where there is nothing to do or nothing certain enough: spaces and
 * commas in it, brackets and `mailto:` around it, a doubled sign, a missing ending, an ending that does not exist, a
 * domain that is one letter from one that many have.
 *
 * @param counts how often each domain stands in the column; one that two families have is no error.
 */
export function repairAddress(
  text: string,
  counts: ReadonlyMap<string, number>,
): { text: string; certain: boolean } | null {
  const bare = strip(text);
  if (bare === '') return null;
  const [local, domain, ...more] = bare.split('@');
  if (!local || !domain || more.length > 0) return null;
  const repaired = repairDomain(domain.toLowerCase(), counts);
  const changed = repaired !== domain.toLowerCase();
  const address = `${local}@${changed ? repaired : domain}`;
  if (address === text || readAddress(address).kind !== 'address') return null;
  return { text: address, certain: !changed || counts.has(repaired) || KNOWN_DOMAINS.has(repaired) };
}

function strip(text: string): string {
  let bare = text.trim();
  const angled = /<\s*([^<>]+@[^<>]+?)\s*>/.exec(bare);
  if (angled) bare = angled[1]!;
  bare = bare
    .replace(/^(?:e-?mail|mailto)\s*:\s*/i, '')
    .replace(/\s*(?:\(at\)|\[at\]|\{at\})\s*/gi, '@')
    .replace(/\s*(?:\(dot\)|\[dot\])\s*/gi, '.')
    .replace(/\s+at\s+(?=\S+\.\S+$)/i, '@');
  // Two addresses are not one with an error in it.
  if ((bare.match(/@/g)?.length ?? 0) > 1 && /@[^@]*[\s,;/]+[^@]*@/.test(bare)) return '';
  return bare
    .replace(/\s+/g, '')
    .replace(/@{2,}/g, '@')
    .replace(/\.{2,}/g, '.')
    .replace(/^[<>"'“”‘’.,;:()]+|[<>"'“”‘’.,;:()]+$/g, '')
    .replace(/,/g, '.')
    .replace(/\.@/g, '@')
    .replace(/@\./g, '@');
}

function repairDomain(domain: string, counts: ReadonlyMap<string, number>): string {
  if ((counts.get(domain) ?? 0) > 1 || KNOWN_DOMAINS.has(domain)) return domain;
  const known = [...[...counts].filter(([, n]) => n >= 3).map(([name]) => name), ...COMMON_DOMAINS];
  if (!domain.includes('.')) {
    const whole = known.find((name) => name.split('.')[0] === domain || name.replace(/\./g, '') === domain);
    if (whole) return whole;
  }
  const [, name, ending] = /^(.*)\.([^.]+)$/.exec(domain) ?? [];
  if (name && ending && ENDINGS[ending]) {
    const mended = `${name}.${ENDINGS[ending]}`;
    return known.find((candidate) => near(mended, candidate)) ?? mended;
  }
  return known.find((candidate) => near(domain, candidate)) ?? domain;
}

/** One letter more, less or other, or two neighbours the other way round. Short domains are too close to each other. */
function near(a: string, b: string): boolean {
  if (a === b) return true;
  if (b.length < 7 || Math.abs(a.length - b.length) > 1) return false;
  if (distance(a, b) === 1) return true;
  if (a.length !== b.length) return false;
  const at = [...a].findIndex((char, n) => char !== b[n]);
  return a.slice(at + 2) === b.slice(at + 2) && a[at] === b[at + 1] && a[at + 1] === b[at];
}

/** The addresses in a cell that holds several, in their order; null where it holds one or none, or something else too. */
export function severalAddresses(text: string): string[] | null {
  const { addresses, wrong } = readAddresses(text);
  return addresses.length > 1 && wrong.length === 0 ? [...addresses] : null;
}
