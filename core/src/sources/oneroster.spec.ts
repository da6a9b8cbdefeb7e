import { zipSync } from 'fflate';
import { openSheetFile } from '../workbook/index.js';

// Files and columns as 1EdTech's OneRoster CSV Binding 1.2 names them (sections 4 and 5; from memory). Data invented.
const bundle: Record<string, string> = {
  'manifest.csv': 'propertyName,value\nmanifest.version,1.0\noneroster.version,1.2\n',
  'users.csv': `sourcedId,status,dateLastModified,enabledUser,username,givenName,familyName,identifier,email,sms,phone,agentSourcedIds,grades,preferredGivenName,pronouns
u1,,,true,amara,Amara,Okonjo-Baptiste,S1,amara@learners.example,,,"g1,g2,t1",08,,she/her
u2,,,true,mina,Wilhelmina,van der Veldt,S2,,,,g3,08,Mina,
u3,tobedeleted,,true,gone,Gone,Away,S3,,,,,08,,
g1,,,true,ada,Ada,Okonjo,,ada@families.example,+44 20 7946 0001,,,,,
g2,,,true,joe,Joe,Baptiste,,joe@families.example,,020 7946 0002,,,,
g3,,,true,kees,Kees,van der Veldt,,kees@families.example,,,,,,
t1,,,true,ms,Ms,Teacher,,t@school.example,,,,,,
`,
  'roles.csv': `sourcedId,userSourcedId,roleType,role
r1,u1,primary,student
r2,u2,primary,student
r3,g1,primary,guardian
r4,g2,primary,parent
r5,g3,primary,guardian
r6,t1,primary,teacher
`,
  'demographics.csv': 'sourcedId,birthDate\nu1,2012-05-04\n',
  'classes.csv': 'sourcedId,title\nc1,8A\nc2,Art\n',
  'enrollments.csv': `sourcedId,classSourcedId,userSourcedId,role
e1,c1,u1,student
e2,c2,u1,student
e3,c1,u2,student
e4,c1,t1,teacher
`,
  'lineItems.csv': 'sourcedId,title\nl1,Spring test\n',
  'results.csv': 'sourcedId,lineItemSourcedId,studentSourcedId,score\nx1,l1,u1,71.5\nx2,l9,u2,1\n',
};
const zip = (files: Record<string, string>): Uint8Array =>
  zipSync(
    Object.fromEntries(Object.entries(files).map(([name, text]) => [name, new TextEncoder().encode(text)])),
  );
let count = 0;
const newId = (): string => `o${++count}`;

test('a bundle becomes a roll of learners with classes, guardians and results', () => {
  const opened = openSheetFile(zip(bundle));
  const laidOut = opened.ok && opened.value.layOut({}, newId);
  if (!laidOut || !laidOut.ok) throw new Error('was not read');
  expect(opened.ok && opened.value.kind).toBe('oneroster');
  const { sheet } = laidOut.value;
  const table = sheet.rows.map((row) =>
    Object.fromEntries(sheet.columns.map(({ title }, at) => [title, row[at]])),
  );
  expect(table).toEqual([
    {
      Identifier: 'S1',
      'Given name': 'Amara',
      'Family name': 'Okonjo-Baptiste',
      'Preferred name': '',
      Pronouns: 'she/her',
      Year: '08',
      Classes: '8A, Art',
      Email: 'amara@learners.example',
      'Birth date': '2012-05-04',
      Guardian: 'Ada Okonjo',
      'Guardian email': 'ada@families.example',
      'Guardian phone': '+44 20 7946 0001',
      'Guardian 2': 'Joe Baptiste',
      'Guardian 2 email': 'joe@families.example',
      'Guardian 2 phone': '020 7946 0002',
      'Spring test': '71.5',
    },
    expect.objectContaining({
      Identifier: 'S2',
      'Preferred name': 'Mina',
      Guardian: 'Kees van der Veldt',
      'Spring test': '',
    }),
  ]);
  expect(sheet.columns.filter(({ role }) => role).map(({ title }) => title)).toEqual([
    'Given name',
    'Family name',
  ]);
});

test('the roles of 1.1 stand in users.csv itself', () => {
  const users =
    'sourcedId,role,givenName,familyName,email\nu1,student,Amara,Okonjo,\nu2,teacher,Ms,Teacher,\n';
  const opened = openSheetFile(zip({ 'manifest.csv': 'propertyName,value\n', 'users.csv': users }));
  const laidOut = opened.ok && opened.value.layOut({}, newId);
  expect(laidOut && laidOut.ok && laidOut.value.sheet.rows).toEqual([['u1', 'Amara', 'Okonjo']]);
});

test.each([
  ['no learners', 'sourcedId,role,givenName,familyName\nu1,teacher,Ms,Teacher\n', 'oneroster-nobody'],
  ['no columns', 'id\n1\n', 'oneroster-users'],
])('a bundle with %s is refused in a sentence', (_name, users, code) => {
  const opened = openSheetFile(zip({ 'manifest.csv': 'propertyName,value\n', 'users.csv': users }));
  const laidOut = opened.ok ? opened.value.layOut({}, newId) : opened;
  expect(laidOut).toMatchObject({ ok: false, problem: { code } });
});
