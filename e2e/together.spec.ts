import type { Browser, Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, signInHere, station, test } from './desk.js';

const SHEET = `Student number,Name,Class,Mark
S1,Ilse Brandt,8A,71
S2,Amara Okonjo,8B,88
S3,Łukasz Wójcik,8B,64
`;

/** Two windows of their own on one folio, as two people have them. */
async function twoDesks(browser: Browser, title: string): Promise<[Page, Page]> {
  const people = await Promise.all([browser.newContext(), browser.newContext()]);
  const [first, second] = [await people[0].newPage(), await people[1].newPage()];
  await signIn(first);
  await first.getByLabel('Title').fill(title);
  await first.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(first.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await first
    .getByLabel('File with a table')
    .setInputFiles({ name: 'class.csv', mimeType: 'text/csv', buffer: Buffer.from(SHEET) });
  await first.getByRole('button', { name: /^Make the roll/ }).click();
  await expect(first.getByRole('grid')).toBeVisible();
  await signIn(second);
  await second.goto(first.url());
  await expect(second.getByRole('grid')).toBeVisible();
  return [first, second];
}
const letter = (page: Page) => page.getByRole('textbox', { name: 'Text of the letter' });
const cell = (page: Page, row: number, column: number) => page.locator(`#cell-${row}-${column} .text`);
/** Keeps what this window sends from arriving until the function that comes back is called. */
async function holdSaves(page: Page): Promise<() => void> {
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/\/writings\/|\/roll$/, async (route) => {
    if (route.request().method() !== 'GET') await held;
    await route.continue();
  });
  return release;
}

test('what one writes shows at the other’s desk; where both write the same, both are seen and one is chosen', async ({
  browser,
}) => {
  const [first, second] = await twoDesks(browser, 'Two in a letter');
  await station(first, 'Page');
  await station(second, 'Page');
  await letter(first).pressSequentially('Dear family,');
  await expect(letter(second)).toContainText('Dear family,');
  // Both write at once: the second one's save comes when the first one's is there.
  const release = await holdSaves(second);
  await letter(second).press('End');
  await letter(second).pressSequentially(' from the second');
  await letter(first).press('End');
  await letter(first).pressSequentially(' from the first');
  await saved(first);
  release();
  await expect(second.getByRole('alert')).toContainText('changed the letter at');
  await expect(letter(second)).toContainText('Dear family, from the second');
  await expectAccessible(second);
  await second.getByRole('button', { name: 'Look at both' }).click();
  const dialog = second.getByRole('dialog');
  await expect(dialog).toContainText('Dear family, from the first');
  await expect(dialog).toContainText('Dear family, from the second');
  await expectAccessible(second);
  await dialog.getByRole('button', { name: 'Take this one, keep mine as a copy' }).click();
  await expect(letter(second)).toHaveText('Dear family, from the first');
  await saved(second);
  // The copy is there, and can be taken up again.
  await station(second, 'Note');
  await station(second, 'Page');
  await second.getByText(/^Versions/).click();
  await second.getByRole('button', { name: 'Put it in the place of the text' }).click();
  await expect(letter(second)).toHaveText('Dear family, from the second');
  await expect(letter(first)).toHaveText('Dear family, from the second');
});

test('the roll: cells, columns and rows of two people go together, and nothing vanishes without a word', async ({
  browser,
}) => {
  const [first, second] = await twoDesks(browser, 'Two in a roll');
  await first.locator('#cell-0-1').click();
  await first.keyboard.type('Ilse B.');
  await first.keyboard.press('Enter');
  await expect(cell(second, 0, 1)).toHaveText('Ilse B.');
  // A cell that is under way here while the other changes another one.
  const release = await holdSaves(second);
  await second.locator('#cell-1-3').click();
  await second.keyboard.type('90');
  await second.keyboard.press('Enter');
  await first.locator('#cell-2-3').click();
  await first.keyboard.type('65');
  await first.keyboard.press('Enter');
  await saved(first);
  release();
  for (const page of [first, second]) {
    await expect(cell(page, 1, 3)).toHaveText('90');
    await expect(cell(page, 2, 3)).toHaveText('65');
  }
  // The row moves up under the box that is written in; what is written goes where it was meant to.
  await second.locator('#cell-2-1').click();
  await second.keyboard.press('F2');
  await second.keyboard.press('End');
  await second.keyboard.type(' jun.');
  await first.locator('#cell-0-1').click();
  await first.keyboard.press('Shift+Space');
  await first.getByRole('button', { name: 'Take away' }).click();
  await expect(cell(first, 0, 1)).toHaveText('Amara Okonjo');
  await expect(second.getByRole('listbox', { name: 'Learners' }).getByRole('option')).toHaveCount(2);
  await second.keyboard.press('Enter');
  await expect(cell(first, 1, 1)).toHaveText('Łukasz Wójcik jun.');
  // Somebody writes about an entry that the other takes away.
  await second.locator('#cell-0-3').click();
  await second.keyboard.type('12');
  await first.locator('#cell-0-1').click();
  await first.keyboard.press('Shift+Space');
  await first.getByRole('button', { name: 'Take away' }).click();
  await expect(second.getByRole('alert')).toContainText('not on the roll any more');
  await expect(cell(second, 0, 1)).toHaveText('Łukasz Wójcik jun.');
});

test('where both give a column another title, one is shown and the other can be had', async ({ browser }) => {
  const [first, second] = await twoDesks(browser, 'Two heads');
  const head = (page: Page) => page.getByRole('columnheader').nth(2);
  const retitle = async (page: Page, title: string): Promise<void> => {
    await head(page).getByRole('button').first().click();
    await page.getByRole('menuitem', { name: 'New title' }).click();
    await page.keyboard.press('ControlOrMeta+A');
    await page.keyboard.type(title);
    await page.keyboard.press('Enter');
  };
  const release = await holdSaves(second);
  await retitle(second, 'Mine');
  await retitle(first, 'Theirs');
  await expect(head(first)).toContainText('Theirs');
  await saved(first);
  release();
  const bar = second.getByRole('alert').filter({ hasText: 'Use mine instead' });
  await expect(bar).toContainText('“Mine” was changed by somebody else');
  await expect(head(second)).toContainText('Theirs');
  await bar.getByRole('button', { name: 'Use mine instead' }).click();
  for (const page of [first, second]) await expect(head(page)).toContainText('Mine');
  await expect(bar).toBeHidden();
});

test('who is signed out while writing signs in again and has lost nothing', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Signed out');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await station(page, 'Page');
  const kept = page.waitForResponse(
    (response) =>
      response.request().method() === 'PUT' && (response.request().postData() ?? '').includes('Before.'),
  );
  await letter(page).pressSequentially('Before.');
  // Steady typing is saved in between too; nothing of it may be on its way any more.
  await kept;
  await saved(page);
  // The save of what is typed now is the first request to find that the session is gone.
  let gone = false;
  await page.route(/\/writings\//, async (route) => {
    if (gone || route.request().method() !== 'PUT') return route.fallback();
    gone = true;
    await page.context().clearCookies();
    const problem = {
      type: 'x',
      title: 'Signed out',
      status: 401,
      detail: 'You are signed out.',
      code: 'signed-out',
    };
    await route.fulfill({
      status: 401,
      contentType: 'application/problem+json',
      body: JSON.stringify(problem),
    });
  });
  await letter(page).press('End');
  await page.keyboard.insertText(' And after the session was gone.');
  await expect(page.getByLabel('Password')).toBeVisible();
  await signInHere(page);
  await expect(letter(page)).toHaveText('Before. And after the session was gone.');
  await saved(page);
  await page.reload();
  await expect(letter(page)).toHaveText('Before. And after the session was gone.');
});
