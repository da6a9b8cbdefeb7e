import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Locator, Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { workbook } from './workbook.js';

const SHEET = `Student number,Name,Class,Guardian email,Mark
S1,ILSE BRANDT,8A,brandt.family@families.example,71
S2,Wilhelmina (Mina) van der Veldt,8A,vanderveldt@families.example,64
S3, Amara Okonjo ,8B,okonjo @families.example,88
S4,محمد السعدي,8B,alsaadi@families.example,55
`;
const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
const fixture = (name: string) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: readFileSync(fileURLToPath(new URL(`../core/fixtures/${name}`, import.meta.url))),
});
const learners = (page: Page): Locator => page.getByRole('listbox', { name: 'Learners' }).getByRole('option');
const cell = (page: Page, row: number, column: number): Locator => page.locator(`#cell-${row}-${column}`);

async function startEmpty(page: Page, title: string): Promise<void> {
  await signIn(page);
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
}

async function startWith(page: Page, title: string, text = SHEET): Promise<void> {
  await startEmpty(page, title);
  await page.getByLabel('File with a table').setInputFiles(csv('class.csv', text));
  await page.getByRole('button', { name: /^Make the roll/ }).click();
  await expect(page.getByRole('grid')).toBeVisible();
}

async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((data) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', data);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  }, text);
}

for (const theme of ['light', 'dark'] as const) {
  test(`a workbook: its sheets, its two rows of titles, its types (${theme} theme)`, async ({ page }) => {
    await page.addInitScript((chosen) => localStorage.setItem('scriptum-theme', chosen), theme);
    await startEmpty(page, `Workbook ${theme}`);
    await page.getByLabel('File with a table').setInputFiles(fixture('school-1900.xlsx'));
    await expect(page.getByLabel('Sheet', { exact: true })).toContainText('Old list (hidden)');
    await expect(page.getByLabel('Titles', { exact: true })).toHaveValue('2');
    await expect(page.getByText('Row 8 sums up the others')).toBeVisible();
    await expectAccessible(page);
    await page.getByLabel('Leave out rows with totals').uncheck();
    await expect(page.getByRole('button', { name: 'Make the roll: 4 entries' })).toBeEnabled();
    await page.getByLabel('Sheet', { exact: true }).selectOption('Types');
    await expect(page.getByRole('button', { name: 'Make the roll: 2 entries' })).toBeEnabled();
    await page.getByRole('button', { name: 'The titles are in row 2' }).click();
    await expect(page.getByRole('button', { name: 'Make the roll: 1 entry' })).toBeEnabled();
    await page.getByRole('button', { name: 'The titles are in row 1' }).click();
    await page.getByRole('button', { name: 'Make the roll: 2 entries' }).click();
    await expect(cell(page, 0, 1)).toHaveText('00123');
    await expect(cell(page, 0, 4)).toHaveText('4 March 2026');
    await expect(page.getByRole('columnheader', { name: /Share.*Percentage/ })).toBeVisible();
    await expectAccessible(page);
  });
}

test('the table is worked in by keyboard, saves itself, and every step is taken back', async ({ page }) => {
  await startWith(page, 'Table');
  await page.getByRole('grid').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('Mina van der Veldt');
  await page.keyboard.press('Enter');
  await expect(cell(page, 1, 1)).toContainText('Mina van der Veldt');
  await expect(cell(page, 1, 1)).toHaveClass(/mended/);
  await page.keyboard.press('ArrowUp');
  const margin = page.getByRole('complementary', { name: 'About the roll' });
  await expect(margin).toContainText('The source says “Wilhelmina (Mina) van der Veldt”');

  // A range from another spreadsheet; what does not fit is said.
  await cell(page, 2, 3).click();
  await paste(page, 'a@families.example\t1\nb@families.example\t2\nc@families.example\t3\n');
  await expect(cell(page, 3, 4)).toHaveText(/^\s*2/);
  await expect(page.getByText('Part of what was copied did not fit')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell(page, 2, 3)).toContainText('okonjo @families.example');
  await page.keyboard.press('Control+y');
  await expect(cell(page, 2, 3)).toContainText('a@families.example');

  // Fill down, and clear.
  await cell(page, 0, 2).click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(cell(page, 2, 2)).toContainText('8A');
  await page.keyboard.press('Delete');
  await expect(cell(page, 1, 2)).toHaveText(/^\s*(, mended)?$/);
  await page.keyboard.press('Control+z');
  await expect(cell(page, 1, 2)).toContainText('8A');
  await saved(page);
  await page.reload();
  await expect(cell(page, 1, 1)).toContainText('Mina van der Veldt');
  await expect(cell(page, 2, 2)).toContainText('8A');
});

test('keys that come faster than the table is drawn work on what was typed before them', async ({ page }) => {
  await startWith(page, 'Quick hand');
  await cell(page, 0, 4).click();
  await page.keyboard.type('8');
  await page.evaluate(() => {
    const scroller = document.querySelector<HTMLElement>('[role=grid]')!;
    const press = (key: string, more: KeyboardEventInit = {}): boolean =>
      (document.activeElement ?? scroller).dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }),
      );
    // Leaving the box takes the 8; opening it again and leaving it changes nothing.
    scroller.focus();
    press('Enter');
    scroller.focus();
    // The 8, and not the 71 before it, is filled into the two below.
    press('ArrowDown', { shiftKey: true });
    press('ArrowDown', { shiftKey: true });
    press('d', { ctrlKey: true });
  });
  for (const row of [0, 1, 2]) await expect(cell(page, row, 4).locator('.text')).toHaveText('8');
  await expect(cell(page, 3, 4).locator('.text')).toHaveText('55');
});

test('a roll from which everybody was taken away is had back', async ({ page }) => {
  await startWith(page, 'All away');
  const grid = page.getByRole('grid');
  await cell(page, 0, 1).click();
  await grid.press('Control+a');
  await page.getByRole('button', { name: 'Take away' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Undo taking 4 entries away' }).click();
  await expect(cell(page, 2, 1)).toContainText('Amara Okonjo');
  await saved(page);
  await page.reload();
  await expect(learners(page)).toHaveCount(4);
});

test('sorting, finding, narrowing, hiding and moving columns', async ({ page }) => {
  await startWith(page, 'View');
  const menu = async (column: string, line: string): Promise<void> => {
    await page.getByRole('button', { name: `Column ${column}` }).click();
    await page
      .getByRole('menuitem', { name: line })
      .or(page.getByRole('menuitemcheckbox', { name: line }))
      .click();
  };
  await menu('Mark', 'Largest first');
  await expect(cell(page, 0, 4)).toHaveText(/88/);
  await page.getByLabel('Find in the table').fill('veldt');
  await expect(page.getByText('1 of 4 shown')).toBeVisible();
  await page.getByRole('button', { name: 'Show all entries' }).click();
  await menu('Student number', 'Hide');
  await expect(page.getByRole('columnheader', { name: 'Student number' })).toHaveCount(0);
  await menu('Name', 'Keep it in view');
  await menu('Class', 'New title');
  await page.getByLabel('New title of Class').fill('Form');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('columnheader', { name: /^Form/ })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('columnheader', { name: /^Form/ })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Student number' })).toHaveCount(0);
});

test('tidying shows before and after, takes what is ticked, and is one step', async ({ page }) => {
  await startWith(page, 'Tidy');
  await page.getByRole('button', { name: /Capitals in “Name”/ }).click();
  await expect(page.getByTitle('ILSE BRANDT', { exact: true }).last()).toBeVisible();
  await expect(page.getByTitle('Ilse Brandt', { exact: true })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take 1 change' }).click();
  await expect(cell(page, 0, 1)).toContainText('Ilse Brandt');
  await page.getByRole('button', { name: /Preferred names in “Name”/ }).click();
  await page.getByLabel('Use it in place of the first name').check();
  await page.getByRole('button', { name: 'Take 1 change' }).click();
  await expect(cell(page, 1, 1)).toContainText('Mina van der Veldt');
  await page.getByRole('button', { name: /Addresses in “Guardian email”/ }).click();
  await page.getByRole('button', { name: 'Take 1 change' }).click();
  await expect(cell(page, 2, 3)).toContainText('okonjo@families.example');
  await page.getByRole('button', { name: /^Undo tidying/ }).click();
  await expect(cell(page, 2, 3)).toContainText('okonjo @families.example');
});

test('an entry that is left out gets no paper, and comes back', async ({ page }) => {
  await startWith(page, 'Left out');
  await page.getByRole('button', { name: 'Leave out …' }).click();
  await page.getByLabel('Why is nothing made').fill('Has left the school');
  await page.keyboard.press('Enter');
  const ledge = page.getByRole('contentinfo', { name: 'Ledge' });
  await expect(ledge).toContainText('1 left out');
  await expect(ledge).toContainText('3 in all');
  await ledge.getByRole('button', { name: '1 left out' }).click();
  await expect(learners(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(ledge).toContainText('4 in all');
});

test('a newer version is compared, conflicts are decided, and it can all be had back', async ({ page }) => {
  await startWith(page, 'Newer');
  await page.getByRole('grid').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('Ilse Brandt');
  await page.keyboard.press('Enter');
  await saved(page);
  const newer = SHEET.replace('ILSE BRANDT', 'Ilse Brand').replace(
    'S4,محمد السعدي,8B,alsaadi@families.example,55\n',
    '',
  );
  await page
    .getByLabel('Newer version of class.csv')
    .setInputFiles(csv('class 2.csv', `${newer.replace('Class,', 'Form,')}S5,Suharto,8A,,60\n`));
  const margin = page.getByRole('complementary', { name: 'How the file is read' });
  await expect(margin).toContainText('“Class” is now called “Form”');
  await expect(margin).toContainText('1 new entry');
  await expect(margin).toContainText('1 entry is not in the file any more');
  await expect(margin).toContainText('1 cell was mended here and changed in the file as well');
  await expectAccessible(page);
  await page.getByLabel('new: Ilse Brand', { exact: true }).check();
  await page.getByRole('button', { name: 'Take the newer version over' }).click();
  await expect(cell(page, 0, 1)).toContainText('Ilse Brand');
  await expect(page.getByRole('contentinfo', { name: 'Ledge' })).toContainText('1 left out');
  await page.getByRole('button', { name: /^Take back the newer version/ }).click();
  await expect(cell(page, 0, 1)).toContainText('Ilse Brandt');
  await expect(page.getByRole('contentinfo', { name: 'Ledge' })).toContainText('4 in all');
});

test('a second sheet is joined: near matches are asked, several rows make a small table', async ({
  page,
}) => {
  await startWith(page, 'Joined');
  await page
    .getByLabel('File to join')
    .setInputFiles(
      csv(
        'guardians.csv',
        'Learner name,Guardian,Hours\nIlse Brandt,Kaja Brandt,2\nIlse Brandt,Kaja Brandt,3.5\nAmara Okonjoh,Ada Okonjo,1\nNobody Here,X,9\n',
      ),
    );
  const margin = page.getByRole('complementary', { name: 'How the file is read' });
  await expect(margin).toContainText('1 of 4 entries have a row');
  await expect(margin).toContainText('1 pair looks alike');
  await margin.getByRole('button', { name: 'Same', exact: true }).click();
  await expect(margin).toContainText('2 of 4 entries have a row');
  await expect(margin).toContainText('1 entry has more than one row');
  await page.getByLabel('A small table for each entry').check();
  await margin.locator('summary', { hasText: 'Hours' }).click();
  await margin.getByLabel('Sum').last().check();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Join this sheet' }).click();
  await expect(page.getByRole('columnheader', { name: /Sum of Hours/ })).toBeVisible();
  await expect(cell(page, 0, 5)).toHaveText(/5\.5/);
  await expect(page.getByText('2 rows of guardians.csv')).toBeVisible();
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await page.getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByRole('columnheader', { name: /Sum of Hours/ })).toHaveCount(0);
});

test('the roll is saved as a file, formulas made harmless', async ({ page }) => {
  await startWith(page, 'Saved', 'Name,Remark\nAmara,"=HYPERLINK(""http://x.example"")"\n');
  await page.getByRole('button', { name: 'Save as' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Text file (CSV)' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Saved.csv');
  expect(readFileSync(await download.path(), 'utf8')).toBe(
    '\uFEFF"Name","Remark"\r\n"Amara","\'=HYPERLINK(""http://x.example"")"\r\n',
  );
});

test('cells pasted into an empty roll become the roll', async ({ page }) => {
  await startEmpty(page, 'Pasted');
  await paste(page, 'Name\tMark\nAmara\t1,5\nIlse\t2,25\n');
  await expect(page.getByLabel('Decimal sign')).toHaveValue(',');
  await page.getByRole('button', { name: 'Make the roll: 2 entries' }).click();
  await expect(page.getByRole('columnheader', { name: /Mark.*Number/ })).toBeVisible();
  await station(page, 'Page');
  await expect(learners(page)).toHaveCount(2);
});

test('a workbook with a read-me is not taken unseen: the sheet of people is chosen, and can be changed', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('File with a table').setInputFiles(
    workbook(
      'year-8.xlsx',
      ['Read me', [['How to use this workbook'], ['Fill in the second sheet.'], ['Then send it.']]],
      [
        '8A',
        [
          ['Name', 'Class'],
          ['Mina', '8A'],
          ['Zoë', '8A'],
        ],
      ],
      [
        '8B',
        [
          ['Name', 'Class'],
          ['Noor', '8B'],
        ],
      ],
    ),
  );
  const sheet = page.getByLabel('Sheet', { exact: true });
  await expect(sheet).toHaveValue('8A');
  await sheet.selectOption('8B');
  await expect(page.getByRole('cell', { name: 'Noor' })).toBeVisible();
  await page.getByRole('button', { name: /^Make the roll/ }).click();
  await expect(page.getByRole('listbox', { name: 'Learners' }).getByRole('option')).toHaveCount(1);
});
