import type { Locator, Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { workbook } from './workbook.js';
import { back, expectColumn, pick, steps, workOut } from './worked.js';

// Whole ways through the application with sheets as schools have them. What is expected is reckoned here by itself.

const csv = (name: string, lines: readonly (readonly (string | number)[])[]) => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(lines.map((line) => line.join(',')).join('\n')),
});
const ledge = (page: Page): Locator => page.getByRole('contentinfo', { name: 'Ledge' });
const margin = (page: Page, name: string): Locator => page.getByRole('complementary', { name });
const GIVEN = ['Amara', 'Łukasz', 'Wilhelmina', 'محمد', 'Zoë', '美玲', 'Maximiliane-Theodora'];
const nameOf = (n: number): string =>
  n % 7 === 6 ? `${GIVEN[6]} Featherstonehaugh-Marchbanks ${n}` : `${GIVEN[n % 7]} Learner ${n}`;

/** Waits until the run has pressed them all, as the register knows it. */
async function allPressed(page: Page, count: number): Promise<void> {
  const folio = /folios?\/([0-9a-z]+)/.exec(page.url())![1]!;
  const pressed = async (): Promise<number> => {
    const register = (await (await page.request.get(`/api/folios/${folio}/papers`)).json()) as {
      papers: { state: string }[];
    };
    return register.papers.filter(({ state }) => state === 'pressed').length;
  };
  await expect.poll(pressed, { timeout: 180_000 }).toBe(count);
}

async function makeRoll(page: Page, title: string, file: ReturnType<typeof csv>): Promise<void> {
  await signIn(page);
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await page.getByLabel('File with a table').setInputFiles(file);
  await page.getByRole('button', { name: /^Make the roll/ }).click();
  await expect(page.getByRole('grid')).toBeVisible();
}

test('a messy workbook of 150: read, joined, mended, refreshed and sent', async ({ page }) => {
  const people = Array.from({ length: 150 }, (_, n) => [
    // Number 14 stands twice.
    `S${String(n === 15 ? 14 : n).padStart(3, '0')}`,
    nameOf(n),
    `8${'ABC'[n % 3]}`,
    `family${n}@families.example`,
  ]);
  const titles = ['Student number', 'Name', 'Class', 'Guardian email'];
  await signIn(page);
  await page
    .getByLabel('File with a table')
    .setInputFiles(
      workbook(
        'year-8.xlsx',
        ['Read me', [['How to fill this in'], ['Use the second sheet.'], ['Send it to the office.']]],
        [
          'List',
          [['Thistlequay School'], ['Year 8, spring fair'], [], titles, ...people, ['Total', '150 learners']],
        ],
      ),
    );
  await expect(page.getByLabel('Sheet', { exact: true })).toHaveValue('List');
  await expect(page.getByText(/Row 155 (?:sums up|says)/)).toBeVisible();
  await page.getByRole('button', { name: 'Make the roll: 150 entries' }).click();
  await expect(page.getByRole('grid')).toBeVisible();

  // The number that nearly tells everybody apart becomes the key; its finding names who shares one.
  const about = margin(page, 'About the roll');
  await expect(about).toContainText(`${nameOf(14)} and ${nameOf(15)} have the same one`);
  await page.getByRole('button', { name: 'Take it as the key' }).click();
  await expect(about).toContainText('share “Student number” with another entry');
  const grid = page.getByRole('grid');
  await grid.focus();
  await page.keyboard.press('Control+Home');
  for (let n = 0; n < 15; n++) await page.keyboard.press('ArrowDown');
  await page.keyboard.type('S015');
  await page.keyboard.press('Enter');
  await expect(about).not.toContainText('share “Student number”');

  await page
    .getByLabel('File to join')
    .setInputFiles(
      csv('houses.csv', [
        ['Student number', 'House'],
        ...Array.from({ length: 152 }, (_, n) => [`S${String(n).padStart(3, '0')}`, ['Reed', 'Fen'][n % 2]!]),
      ]),
    );
  await expect(margin(page, 'How the file is read')).toContainText('150 of 150 entries have a row');
  await page.getByRole('button', { name: 'Join this sheet' }).click();
  await expect(page.getByRole('columnheader', { name: /House/ })).toBeVisible();

  // Two at once are left out, by keyboard alone; a reason is asked for.
  await grid.focus();
  await page.keyboard.press('Control+Home');
  for (const key of ['Shift+Space', 'Shift+ArrowDown']) await page.keyboard.press(key);
  const bar = page.getByRole('toolbar', { name: 'Chosen rows' });
  await expect(bar).toContainText('2 rows');
  await bar.getByRole('button', { name: 'Leave out …' }).press('Enter');
  await expect(page.getByLabel('Why is nothing made for these 2?')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('A reason is lacking')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.type('Has left the school');
  await page.keyboard.press('Enter');
  await expect(grid).toBeFocused();
  await expect(ledge(page)).toContainText('2 left out');

  // One who is on no list is added by hand.
  await page.getByRole('button', { name: 'Add a row' }).click();
  await expect(grid).toBeFocused();
  for (const text of ['X1', 'Odalys Newcomer', '8A', 'odalys@families.example']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await expect(ledge(page)).toContainText('149 in all');
  await saved(page);

  // The newer version: another title line, other order, one changed, one new, one gone, and our own column in it.
  const newer = [
    ...people
      .slice(1, 149)
      .map((line, n) => (n === 30 ? [...line.slice(0, 3), 'moved@families.example'] : line)),
    ['S151', 'Nadia Newest', '8B', 'nadia@families.example'],
    people[0]!,
  ]
    .reverse()
    .map((line) => [...line.map((cell) => (cell === 'S014' && line[1] === nameOf(15) ? 'S015' : cell)), 'x']);
  await page
    .getByLabel('Newer version of year-8.xlsx')
    .setInputFiles(
      workbook('year-8 May.xlsx', [
        'List',
        [['Thistlequay School'], ['Year 8'], ['as of May'], [], [...titles, 'House'], ...newer],
      ]),
    );
  const read = margin(page, 'How the file is read');
  await expect(read).toContainText('149 entries were found again');
  await expect(read).toContainText('1 new entry');
  await expect(read).toContainText('1 entry is not in the file any more');
  await expect(read).toContainText('2 cells have changed');
  await expect(read).toContainText('“House” of the file is left aside: it comes from houses.csv');
  await page.getByRole('button', { name: 'Take the newer version over' }).click();
  await expect(page.getByRole('columnheader', { name: /House/ })).toHaveCount(1);
  // 150 from the sheet and one by hand, of whom two were left out and one is gone.
  await expect(ledge(page)).toContainText('149 in all');
  await expect(ledge(page)).toContainText('3 left out');
  await page.getByLabel('Find in the table').fill('Nadia');
  await expectColumn(page, 'House', ['Fen']);
  await page.getByRole('button', { name: 'Show all entries' }).click();

  // The letter, and its dispatch.
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('Dear family of ');
  await page.getByRole('button', { name: 'Put in Name' }).click();
  await page.keyboard.type(', house ');
  await page.getByRole('button', { name: 'Put in House' }).click();
  await station(page, 'Note');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('Spring fair');
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('See the letter.');
  await saved(page);
  await page.getByRole('button', { name: 'Press all 149 papers' }).click();
  await station(page, 'Register');
  await allPressed(page, 149);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Send 149 messages' }).click();
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  await expect(page.getByRole('dialog')).toContainText('Nobody is left to write to');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
});

test('a quiz with ten questions by key and three by hand', async ({ page }) => {
  const KEY = ['a', 'b', 'c', 'd', 'a', 'b', 'c', 'd', 'a', 'b'];
  const answersOf = (n: number): string[] => KEY.map((right, q) => ((n + q) % 4 === 0 ? 'x' : right));
  const LEARNERS = 12;
  const open = (n: number, q: number): string =>
    n === LEARNERS - 1 ? '' : n % 5 === q ? 'The same' : `Answer ${n} to ${q}`;
  await makeRoll(
    page,
    'Quiz of thirteen',
    csv('quiz.csv', [
      ['Name', 'Class', ...KEY.map((_, q) => `Q${q + 1}`), 'Explain 1', 'Explain 2', 'Explain 3'],
      ...Array.from({ length: LEARNERS }, (_, n) => [
        nameOf(n),
        '8A',
        ...answersOf(n),
        open(n, 0),
        open(n, 1),
        open(n, 2),
      ]),
    ]),
  );
  await workOut(page, /Marking key/);
  // All questions are there, whatever was guessed, in the order of the sheet.
  const questions = page.getByRole('button', { name: 'Take the question out' });
  while ((await questions.count()) > 0) await questions.first().click();
  await page.getByText('Add questions …').click();
  for (const title of [...KEY.map((_, q) => `Q${q + 1}`), 'Explain 1', 'Explain 2', 'Explain 3'])
    await page.getByRole('checkbox', { name: title, exact: true }).check();
  await page.getByRole('button', { name: 'Add those ticked' }).click();
  await expect(questions).toHaveCount(13);
  await page.getByText('Paste a key …').click();
  await page.getByLabel('Right answers, one for each question, in their order').fill(KEY.join('\n'));
  await page.getByRole('button', { name: 'Take these answers' }).click();
  const region = (title: string): Locator => page.getByRole('region', { name: title, exact: true });
  for (const [title, points] of [
    ['Explain 1', '3'],
    ['Explain 2', '20'],
    ['Explain 3', '2'],
  ] as const) {
    await region(title).getByLabel('How it is marked').selectOption('marked by hand');
    await region(title).getByLabel('Points', { exact: true }).fill(points);
    await region(title).getByLabel('Points', { exact: true }).press('Tab');
    const take = page.getByRole('button', { name: 'Take the change' });
    if (await take.isVisible()) await take.click();
  }
  await region('Explain 1').getByRole('button', { name: 'Mark the answers' }).click();
  const pass = page.getByRole('application');
  await expect(pass).toBeFocused();
  // 3, 2, 1, 0, 3, 2 …, then 0 for the one who answered nothing.
  const first = Array.from({ length: LEARNERS - 1 }, (_, n) => 3 - (n % 4));
  for (const points of first) await page.keyboard.press(String(points));
  await page.keyboard.press('b');
  await expect(page.getByText(`${LEARNERS} of ${LEARNERS} marked`)).toBeVisible();
  // On to the next question; typed digits go along with the learner for whom they were typed.
  await page.keyboard.press('q');
  await expect(page.getByRole('heading', { name: 'Explain 2' })).toBeVisible();
  for (let n = 0; n < LEARNERS - 2; n++) {
    await page.keyboard.type(String(10 + n));
    await page.keyboard.press('Enter');
  }
  await page.keyboard.type('7');
  await page.keyboard.press('q');
  await expect(page.getByRole('heading', { name: 'Explain 3' })).toBeVisible();
  for (let n = 0; n < LEARNERS - 1; n++) await page.keyboard.press('f');
  await page.keyboard.press('Escape');
  await back(page);
  const second = [...Array.from({ length: LEARNERS - 2 }, (_, n) => 10 + n), 7];
  await expectColumn(page, 'Points: Explain 2', [...second.map(String), '']);
  // The one who answered nothing has 0, or nothing yet, which counts as nothing got.
  const score = (n: number): number =>
    answersOf(n).filter((answer, q) => answer === KEY[q]).length +
    (n === LEARNERS - 1 ? 0 : first[n]! + second[n]! + 2);
  await expectColumn(
    page,
    'Score',
    Array.from({ length: LEARNERS }, (_, n) => score(n).toFixed(1)),
  );
});

test('reports in six subjects for 180 learners', async ({ page }) => {
  const SUBJECTS = ['Art', 'Biology', 'English', 'History', 'Maths', 'Music'];
  const PIECES = [
    ['Essay', 20],
    ['Test', 50],
    ['Talk', 10],
  ] as const;
  const point = (n: number, s: number, p: number): number =>
    (n * (7 + s) + p * 11 + s * 3) % (PIECES[p]![1] + 1);
  await makeRoll(
    page,
    'Six subjects',
    csv('marks.csv', [
      [
        'Name',
        'Class',
        'Pronouns',
        ...SUBJECTS.flatMap((subject) => PIECES.map(([work, of]) => `${subject}: ${work} (${of})`)),
      ],
      ...Array.from({ length: 180 }, (_, n) => [
        nameOf(n),
        `8${'ABCDEF'[n % 6]}`,
        ['she/her', 'he/him', 'they/them'][n % 3]!,
        // Two subjects have a word that no scheme knows.
        ...SUBJECTS.flatMap((_s, s) =>
          PIECES.map((_p, p) => (n === 170 && p === 0 && (s === 0 || s === 5) ? 'sick' : point(n, s, p))),
        ),
      ]),
    ]),
  );
  await workOut(page, /Mark scheme/);
  await expect(page.getByLabel('Title of the column')).toHaveValue('Art mark');
  await page.getByLabel('How pieces count').selectOption('all the same');
  for (const subject of SUBJECTS.slice(1)) {
    await page.getByLabel('Copy this scheme').selectOption(subject);
    await expect(page.getByLabel('Title of the column')).toHaveValue(`${subject} mark`);
    await expect(page.getByLabel('Out of', { exact: true })).toHaveCount(3);
  }
  await expectAccessible(page);
  await back(page);
  const mark = (n: number, s: number): number =>
    PIECES.reduce((sum, [, of], p) => sum + (point(n, s, p) / of) * 100, 0) / PIECES.length;
  for (const [s, subject] of SUBJECTS.entries())
    await expectColumn(
      page,
      `${subject} mark`,
      [0, 1, 2, 3].map((n) => mark(n, s).toFixed(1)),
    );
  // Findings of one kind stand together, and open into their places.
  const findings = margin(page, 'About the roll');
  await expect(findings).toContainText('“Art mark” meets a text where a mark should be');
  const music = findings.getByText('“Music mark” meets a text where a mark should be');
  await expect(music).toBeHidden();
  await findings.getByText('1 more of this kind').last().click();
  await expect(music).toBeVisible();
  await workOut(page, /Bands/);
  await page.getByLabel('Bands of which column').selectOption('Maths mark');
  await page.getByLabel('Begin with a scale').selectOption('Words');
  const words = (share: number): string =>
    share >= 85 ? 'Excelling' : share >= 65 ? 'Secure' : share >= 50 ? 'Developing' : 'Beginning';
  // What is no number says so at its box, and stays there to be mended.
  await page.getByLabel('Secure: from').fill('sixty');
  await page.getByLabel('Secure: from').press('Tab');
  await expect(page.getByRole('alert')).toHaveText('Write a number, such as 12 or 12.5.');
  await expect(page.getByLabel('Secure: from')).toHaveValue('sixty');
  // A threshold says whose band it changes before it is taken.
  await page.getByLabel('Secure: from').fill('60');
  await page.getByLabel('Secure: from').press('Tab');
  const draft = page.getByText('Not taken yet.');
  await expect(draft).toBeVisible();
  const moved = Array.from({ length: 180 }, (_, n) => mark(n, 4)).filter(
    (share) => share >= 60 && share < 65,
  ).length;
  await expect(page.getByText(`Maths mark band: ${moved} learners`)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
  await expect(draft).toBeHidden();
  await expect(page.getByLabel('Secure: from')).toHaveValue('65');
  await back(page);
  await expectColumn(
    page,
    'Maths mark band',
    [0, 1, 2, 3].map((n) => words(mark(n, 4))),
  );
  await workOut(page, /Remarks/);
  await page.getByLabel('The mark', { exact: true }).selectOption('English mark');
  await pick(page, nameOf(6));
  await expect(steps(page)).toContainText('Maximiliane-Theodora');
  await back(page);
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.getByRole('button', { name: 'Put in Name' }).click();
  for (const subject of SUBJECTS) {
    await page.keyboard.press('Enter');
    await page.keyboard.type(`${subject} `);
    await page.getByRole('button', { name: `Put in ${subject} mark`, exact: true }).click();
  }
  await saved(page);
  await page.getByRole('button', { name: 'Press all 180 papers' }).click();
  await station(page, 'Register');
  await allPressed(page, 180);
  await expect(page.getByRole('link', { name: 'Print or save …' })).toBeVisible();
});
