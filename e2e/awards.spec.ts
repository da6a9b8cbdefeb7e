import type { Locator, Page } from '@playwright/test';
import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

async function river(page: Page): Promise<void> {
  await signIn(page);
  await page.getByRole('link', { name: 'River survey awards', exact: true }).click();
  await station(page, 'Press');
}
const rule = (page: Page, n: number): Locator => page.getByRole('group', { name: `Rule ${n}`, exact: true });
const line = (page: Page, name: string): Locator =>
  page.getByRole('list', { name: 'Who gets which paper' }).getByRole('listitem').filter({ hasText: name });
const view = (page: Page, name: RegExp): Promise<void> =>
  page.getByRole('navigation', { name: 'Parts of the station' }).getByRole('link', { name }).click();

test('rules say who gets what; whose papers a change changes is seen before it is taken, and taken back', async ({
  page,
}) => {
  await river(page);
  await expect(line(page, 'Tane Wharepapa')).toContainText('Gold award');
  await expect(line(page, 'Callum McAllendale')).toContainText(
    'left out, because the log book is not finished',
  );
  await expect(line(page, 'Callum McAllendale')).not.toContainText('not pressed yet');
  await expect(page.getByRole('button', { name: '1 left out' })).toBeVisible();
  await expectAccessible(page);
  // Who needs 26 hours for gold from now on.
  const hours = rule(page, 2).getByRole('button', { name: /^what it is compared with/ });
  await hours.click();
  await page.keyboard.type('26');
  await page.keyboard.press('Enter');
  const bar = page.getByRole('region', { name: 'What the change would change' });
  await expect(bar).toContainText('1 learner would get something else');
  await expect(bar).toContainText('Ольга Черненко');
  await expect(bar).toContainText('Silver award → Gold award');
  await expect(line(page, 'Ольга Черненко')).toContainText('Silver award');
  await bar.getByRole('button', { name: 'Leave it as it was' }).click();
  await expect(hours).toHaveText('30');
  await hours.click();
  await page.keyboard.type('26');
  await page.keyboard.press('Enter');
  await bar.getByRole('button', { name: 'Take the change' }).click();
  await expect(line(page, 'Ольга Черненко')).toContainText('Gold award');
  await saved(page);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(line(page, 'Ольга Черненко')).toContainText('Silver award');
  await saved(page);
  await page.reload();
  await expect(line(page, 'Ольга Черненко')).toContainText('Silver award');
});

test('a rule is put in before the one for everyone else, and written part by part', async ({ page }) => {
  await river(page);
  await page.getByRole('button', { name: 'Add a rule' }).click();
  await expect(rule(page, 4)).toContainText('choose a paper');
  await expect(rule(page, 5)).toContainText('Everyone else gets Bronze award');
  await choose(rule(page, 4).getByRole('button', { name: /^whose value/ }), 'Class');
  await rule(page, 4)
    .getByRole('button', { name: /^what it is compared with/ })
    .click();
  // What stands in the column's cells is there to be chosen.
  await page.getByRole('option', { name: '8A', exact: true }).click();
  await choose(rule(page, 4).getByRole('button', { name: /^the paper/ }), 'Gold award');
  const bar = page.getByRole('region', { name: 'What the change would change' });
  await expect(bar).toContainText('Ibrahim Çelikkaya');
  await bar.getByRole('button', { name: 'Take the change' }).click();
  await page.getByRole('option', { name: 'Ibrahim Çelikkaya' }).click();
  await expect(page.getByRole('complementary', { name: /^Why/ })).toContainText(
    'Rule 4 takes Ibrahim Çelikkaya, because Class is 8A.',
  );
  await page.getByRole('button', { name: 'Take rule 4 out' }).click();
  await bar.getByRole('button', { name: 'Take the change' }).click();
  await expect(rule(page, 4)).toContainText('Everyone else gets Bronze award');
  await saved(page);
});

test('file names are told apart by a column, and shown for everybody', async ({ page }) => {
  await river(page);
  await view(page, /File names/);
  await expect(page.getByRole('list', { name: 'The file of each paper' })).toContainText(
    'Tane Wharepapa – river survey.pdf',
  );
  await choose(page.getByRole('button', { name: /^what tells them apart/ }), 'Class');
  await expect(page.getByRole('group', { name: /told apart/ })).toContainText('by Class, and by a number');
  await expectAccessible(page);
  await choose(page.getByRole('button', { name: /^what tells them apart/ }), 'a number');
  await saved(page);
});

test('all papers are looked at in the background; what is right is said once, and stays so', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
  await station(page, 'Press');
  await view(page, /Checks/);
  await expect(
    page.getByText('All 28 papers were set and looked at as they would come out now.'),
  ).toBeVisible({
    timeout: 60_000,
  });
  const found = page.getByRole('region', { name: 'What was found' });
  const kind = (name: string): Locator => found.locator('summary').filter({ hasText: name });
  await expect(kind('No address')).toContainText('1 learner');
  await kind('No address').click();
  await expectAccessible(page);
  await found.getByRole('button', { name: 'Seen, it is right' }).click();
  await expect(kind('No address')).toHaveCount(0);
  await page.reload();
  await expect(kind('Seen, and right')).toBeVisible();
  await kind('Seen, and right').click();
  await expect(found).toContainText('Right, says Marit Osgathorpe');
  await found.getByRole('button', { name: 'Look at it again' }).click();
  await expect(kind('No address')).toBeVisible();
  // Where it can be mended is one click away, with the learner picked.
  await kind('Addresses that cannot be right').click();
  await found.getByRole('button', { name: 'Mend it in the roll' }).click();
  await expect(page.getByRole('grid')).toBeVisible();
  await expect(page.getByRole('option', { name: /ilse BRANDT/, selected: true })).toBeVisible();
  // No station says that all is well beside a mark that says otherwise.
  await expect(page.getByRole('complementary').last()).not.toContainText('The roll is in order.');
});

test('papers are tried on oneself, pressed as asked, listed by run, and cleared or held by key', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await river(page);
  await page.getByRole('button', { name: 'Try …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('The difficult ones');
  await expect(dialog.getByRole('list', { name: 'Who is tried' })).toContainText('the longest name');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Send the try to yourself' }).click();
  await expect(dialog).toContainText(/\d papers went to office@thistlequay\.example\./);
  await dialog.getByRole('button', { name: 'Close' }).click();
  // Only one of them, and then those that are new.
  await page.getByRole('option', { name: 'Freya Holmqvist' }).click();
  await page.getByRole('button', { name: 'Press this one' }).click();
  await expect(line(page, 'Freya Holmqvist')).toContainText('Pressed');
  await page.getByRole('button', { name: 'What is pressed' }).click();
  await expect(page.getByRole('menu')).toContainText('6 new · 0 out of date · 1 up to date');
  await page.getByRole('menuitem', { name: 'Press 6 new' }).click();
  await expect(page.getByRole('button', { name: 'All up to date' })).toBeVisible();
  await view(page, /Runs/);
  const runs = page.getByRole('region', { name: 'The runs' });
  await expect(runs.getByRole('article')).toHaveCount(2);
  await expect(runs.getByRole('article').first()).toContainText('6 of 6 pressed');
  await expect(runs.getByRole('article').first()).toContainText('Marit Osgathorpe');
  await expectAccessible(page);

  await station(page, 'Register');
  await view(page, /Review \(7\)/);
  const counts = page.getByRole('status').filter({ hasText: 'to look at' });
  await expect(counts).toHaveText('7 to look at · 0 cleared · 0 held');
  await page.getByRole('option', { name: 'Tane Wharepapa' }).click();
  await expect(page.getByRole('img', { name: 'Page 1 of the paper for Tane Wharepapa' })).toBeVisible();
  await page.getByRole('region', { name: 'The paper' }).focus();
  await page.keyboard.press('c');
  await expect(counts).toHaveText('6 to look at · 1 cleared · 0 held');
  await expect(page.getByRole('option', { name: 'Freya Holmqvist', selected: true })).toBeVisible();
  await page.keyboard.press('h');
  // What is typed into the note is no key.
  await page.getByRole('textbox', { name: 'Why is it held?' }).fill('check the hours');
  await page.keyboard.press('Enter');
  await expect(counts).toHaveText('5 to look at · 1 cleared · 1 held');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('complementary', { name: 'About the paper' })).toContainText('check the hours');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Clear all 5 …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Clear them all' }).click();
  await expect(counts).toHaveText('0 to look at · 6 cleared · 1 held');

  // One is voided with a reason, which stays; the ledge has another one to press.
  await view(page, /^Papers/);
  const row = page.getByRole('row', { name: /Priya Ramanathan/ });
  await row.click();
  await page.getByRole('button', { name: 'Void …' }).click();
  await page.getByRole('button', { name: 'Void it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'A reason is lacking' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('textbox', { name: 'Why' }).fill('Hours of somebody else');
  await page.getByRole('button', { name: 'Void it' }).click();
  await expect(row).toContainText('Void');
  await page.locator('summary').filter({ hasText: 'History' }).click();
  await expect(page.getByRole('complementary', { name: 'About the paper' })).toContainText(
    'Voided by Marit Osgathorpe Hours of somebody else',
  );
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Press 1 paper' }).click();
  await expect(page.getByRole('row', { name: /Priya Ramanathan/ })).toHaveCount(2);
});

test('the front page says what waits, finds learners, and copies a folio for the next term', async ({
  page,
}) => {
  await river(page);
  await page.getByRole('option', { name: 'Priya Ramanathan' }).click();
  await page.getByRole('button', { name: 'Press this one' }).click();
  await expect(line(page, 'Priya Ramanathan')).toContainText(/Pressed|Cleared/);
  await page.getByRole('link', { name: 'Thistlequay School' }).click();
  await expect(page.getByRole('region', { name: 'What waits for somebody' })).toContainText(
    'River survey awards',
  );
  await expectAccessible(page);
  await page.getByRole('textbox', { name: 'Find a folio or a learner' }).fill('darcy');
  await page.getByRole('textbox', { name: 'Find a folio or a learner' }).fill('zoe d');
  await page.getByRole('button', { name: 'Zoë D’Arcy-Lévesque' }).click();
  await expect(page.getByRole('option', { name: 'Zoë D’Arcy-Lévesque', selected: true })).toBeVisible();
  await page.getByRole('link', { name: 'Thistlequay School' }).click();
  await page.getByRole('button', { name: 'Copy River survey awards', exact: true }).click();
  await page
    .getByRole('dialog')
    .getByRole('textbox', { name: 'Title of the copy' })
    .fill('Awards of next year');
  await page.getByRole('dialog').getByRole('button', { name: 'Copy the folio' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await station(page, 'Press');
  await expect(rule(page, 2)).toContainText('Survey hours is at least 30');
  await page.getByRole('link', { name: 'Thistlequay School' }).click();
  await page.getByRole('button', { name: 'Put away Awards of next year' }).click();
  await expect(page.getByRole('link', { name: 'Awards of next year' })).toHaveCount(0);
  await page.getByRole('button', { name: '1 put away: show' }).click();
  await page.getByRole('button', { name: 'Take back Awards of next year' }).click();
  await expect(page.getByRole('button', { name: /put away: show/ })).toHaveCount(0);
});
