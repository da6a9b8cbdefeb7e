import { noteThat, refuse, succeed, type Result, type Sheet } from '../table/index.js';
import type { Column } from '../column/index.js';

/** One file of a bundle: its titles and its rows. */
export interface BundleTable {
  readonly titles: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** The files of a bundle that are used here, by name without ending. */
export type Bundle = Readonly<Record<string, BundleTable>>;

/** Guardians that get columns of their own, for each learner. */
const GUARDIANS = 2;

/** True for the names of an archive's parts that are a OneRoster bundle. */
export const isOneRoster = (names: readonly string[]): boolean => {
  const plain = new Set(names.map((name) => name.replace(/^.*\//, '').toLowerCase()));
  return (
    plain.has('users.csv') &&
    (plain.has('manifest.csv') || plain.has('enrollments.csv') || plain.has('orgs.csv'))
  );
};

/**
 * Makes one sheet of a OneRoster 1.2 CSV bundle (1EdTech OneRoster CSV Binding 1.2; 1.1 names roles and guardians in the
 * same files): a row for each learner with names, identifiers, classes, birth date, up to two guardians with their
 * addresses, and a column for each line item's score.
 *
 * Rows with the status `tobedeleted` are passed over. Learners are users with the role `student`; where roles.csv is
 * there, as 1.2 has it, it decides.
 *
 * @param newId gives a new column identity at each call.
 * @returns a refusal `oneroster-users` where users.csv lacks its columns, `oneroster-nobody` where it has no learners.
 */
export function readOneRoster(bundle: Bundle, newId: () => string): Result<Sheet> {
  const users = records(bundle['users']);
  if (!users[0] || !('sourcedId' in users[0]) || !('familyName' in users[0])) {
    return refuse('oneroster-users');
  }
  const roles = rolesOf(users, records(bundle['roles']));
  const learners = users.filter((user) => roles.get(user['sourcedId']!)?.has('student'));
  if (learners.length === 0) {
    return refuse('oneroster-nobody');
  }
  const byId = new Map(users.map((user) => [user['sourcedId']!, user]));
  const births = new Map(
    records(bundle['demographics']).map((row) => [row['sourcedId']!, row['birthDate'] ?? '']),
  );
  const classes = classesOf(records(bundle['classes']), records(bundle['enrollments']));
  const scores = scoresOf(records(bundle['lineItems']), records(bundle['results']));
  const columns: {
    title: string;
    type?: Column['type'];
    role?: Column['role'];
    cell: (learner: Row) => string;
  }[] = [
    { title: 'Identifier', cell: (learner) => learner['identifier'] || learner['sourcedId']! },
    { title: 'Given name', role: 'given name', cell: (learner) => learner['givenName'] ?? '' },
    { title: 'Family name', role: 'surname', cell: (learner) => learner['familyName'] ?? '' },
    {
      title: 'Preferred name',
      cell: (learner) => learner['preferredGivenName'] ?? learner['preferredFirstName'] ?? '',
    },
    { title: 'Pronouns', cell: (learner) => learner['pronouns'] ?? '' },
    { title: 'Year', cell: (learner) => learner['grades'] ?? '' },
    {
      title: 'Classes',
      type: 'several choices',
      cell: (learner) => (classes.get(learner['sourcedId']!) ?? []).join(', '),
    },
    { title: 'Email', type: 'email', cell: (learner) => learner['email'] ?? '' },
    { title: 'Birth date', type: 'date', cell: (learner) => births.get(learner['sourcedId']!) ?? '' },
    ...Array.from({ length: GUARDIANS }, (_, n) => {
      const guardian = (learner: Row): Row | undefined => guardiansOf(learner, byId, roles)[n];
      const called = n === 0 ? 'Guardian' : `Guardian ${n + 1}`;
      return [
        {
          title: called,
          cell: (learner: Row) =>
            [guardian(learner)?.['givenName'], guardian(learner)?.['familyName']].filter(Boolean).join(' '),
        },
        {
          title: `${called} email`,
          type: 'email' as const,
          cell: (learner: Row) => guardian(learner)?.['email'] ?? '',
        },
        {
          title: `${called} phone`,
          type: 'phone' as const,
          cell: (learner: Row) => guardian(learner)?.['sms'] || guardian(learner)?.['phone'] || '',
        },
      ];
    }).flat(),
    ...[...scores.items].map(([itemId, title]) => ({
      title,
      type: 'number' as const,
      cell: (learner: Row) => scores.of.get(`${learner['sourcedId']} ${itemId}`) ?? '',
    })),
  ];
  // Columns that say nothing for anybody would only be in the way.
  const kept = columns.filter(({ cell }) => learners.some((learner) => cell(learner) !== ''));
  const titles = new Set<string>();
  const guardians = kept.some(({ title }) => title === 'Guardian');
  const notes = [noteThat('oneroster', { learners: learners.length, guardians, items: scores.items.size })];
  return succeed({
    columns: kept.map(({ title, type, role }): Column => {
      let free = title;
      for (let n = 2; titles.has(free); n++) free = `${title} (${n})`;
      titles.add(free);
      return { id: newId(), title: free, sourceTitle: free, type: type ?? 'text', ...(role ? { role } : {}) };
    }),
    rows: learners.map((learner) => kept.map(({ cell }) => cell(learner))),
    exact: [],
    lines: learners.map((learner) => users.indexOf(learner) + 2),
    notes,
  });
}

type Row = Readonly<Record<string, string>>;

function records(table: BundleTable | undefined): Row[] {
  if (!table) return [];
  const titles = table.titles.map((title) => title.trim());
  return table.rows
    .map((cells) => Object.fromEntries(titles.map((title, at) => [title, (cells[at] ?? '').trim()])))
    .filter((row) => row['status']?.toLowerCase() !== 'tobedeleted');
}

/** The roles of each user: of roles.csv (1.2), else of the user's own line (1.1). */
function rolesOf(users: readonly Row[], roles: readonly Row[]): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  const add = (id: string | undefined, role: string | undefined): void => {
    if (id && role) found.set(id, (found.get(id) ?? new Set()).add(role.toLowerCase()));
  };
  for (const row of roles) add(row['userSourcedId'], row['role']);
  if (roles.length === 0) for (const user of users) add(user['sourcedId'], user['role']);
  return found;
}

const GUARDIAN_ROLES = ['guardian', 'parent', 'relative'];

/** A learner's guardians: the agents of their line who have such a role, in that order. */
function guardiansOf(
  learner: Row,
  byId: ReadonlyMap<string, Row>,
  roles: ReadonlyMap<string, ReadonlySet<string>>,
): Row[] {
  const agents = (learner['agentSourcedIds'] ?? learner['agents'] ?? '').split(',').map((id) => id.trim());
  return agents
    .map((id) => byId.get(id))
    .filter((user): user is Row => user !== undefined)
    .filter((user) => GUARDIAN_ROLES.some((role) => roles.get(user['sourcedId']!)?.has(role)));
}

function classesOf(classes: readonly Row[], enrolments: readonly Row[]): Map<string, string[]> {
  const titles = new Map(classes.map((row) => [row['sourcedId']!, row['title'] || row['classCode'] || '']));
  const found = new Map<string, string[]>();
  for (const row of enrolments) {
    if (row['role']?.toLowerCase() !== 'student') continue;
    const title = titles.get(row['classSourcedId'] ?? '');
    const id = row['userSourcedId'] ?? '';
    if (title) found.set(id, [...new Set([...(found.get(id) ?? []), title])]);
  }
  return found;
}

function scoresOf(
  items: readonly Row[],
  results: readonly Row[],
): { items: Map<string, string>; of: Map<string, string> } {
  const titles = new Map(items.map((row) => [row['sourcedId']!, row['title'] || row['sourcedId']!]));
  const of = new Map<string, string>();
  for (const row of results) {
    const item = row['lineItemSourcedId'] ?? '';
    const score = row['score'] || row['textScore'] || '';
    if (titles.has(item) && score) of.set(`${row['studentSourcedId']} ${item}`, score);
  }
  return { items: titles, of };
}
