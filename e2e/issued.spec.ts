import type { Locator, Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

async function reports(page: Page, where: string): Promise<void> {
  await signIn(page);
  await page.getByRole('link', { name: 'Year 8 spring reports', exact: true }).click();
  await station(page, where);
}
const learner = (page: Page, name: string): Promise<void> =>
  page.getByRole('option', { name: new RegExp(`^\\s*\\d+\\s*${name}`) }).click();
const paper = (page: Page): Locator => page.getByRole('img', { name: /Page 1 of the paper/ });

test('packs say what is in them; a growing one is there once', async ({ page }) => {
  await reports(page, 'Register');
  await page.getByRole('link', { name: 'Packs', exact: true }).click();
  const first = page.getByRole('article').filter({ hasText: 'a sheet before each Class' });
  await expect(first.getByRole('link', { name: 'Open' })).toBeVisible({ timeout: 60_000 });
  await first.getByRole('button', { name: 'What is in it' }).click();
  await expect(first.getByRole('row', { name: /Amara Okonjo-Baptiste/ })).toContainText('3');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Growing pack' }).click();
  const grows = page.getByRole('article', { name: 'Growing pack' });
  await expect(grows.getByRole('link', { name: 'Save' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Growing pack' })).toHaveCount(0);
  await grows.getByRole('button', { name: 'Take this pack away' }).click();
  await expect(grows).toHaveCount(0);

  const drop = page.getByRole('region', { name: 'Drop-off' });
  await drop.getByRole('button', { name: /WebDAV/ }).click();
  await drop.getByLabel('Address').fill('https://files.school.example/');
  await drop.getByRole('button', { name: 'Put papers there' }).click();
  await expect(drop.getByRole('alert')).toContainText('Papers may not go to this address');
  await expectAccessible(page);
  await drop.getByRole('button', { name: 'Use the practice shelf' }).click();
  await expect(drop.getByRole('status')).toContainText(/2\d lie there/, { timeout: 60_000 });
  await drop.getByRole('button', { name: 'No more' }).click();
  await expect(drop).toContainText('where others look for them');
});

test('a paper is found over all folios, with its history, and issued again with a reason', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Register of all papers' }).click();
  const papers = page.getByRole('region', { name: 'Papers' });
  const sought = page.getByPlaceholder('Name, class, number or folio');
  await expect(papers.getByRole('row').nth(1)).toBeVisible();
  await sought.fill('ronningsdal 8b');
  await expect(page.getByRole('status').first()).toContainText('1 paper');
  const row = papers.getByRole('row', { name: /Dag Rønningsdal/ });
  await expect(row).toContainText('Void');
  await row.getByRole('button', { name: 'Dag Rønningsdal' }).click();
  const about = page.getByRole('complementary', { name: 'About the paper' });
  await about.getByText('History').click();
  await expect(about).toContainText('Voided by Marit Osgathorpe');
  await expectAccessible(page);
  await sought.fill('freya holmqvist year');
  await expect(page.getByRole('status').first()).toContainText('1 paper');
  await papers.getByRole('checkbox', { name: /Freya/ }).check();
  await page.getByRole('button', { name: 'Print', exact: true }).click();
  const made = page.getByRole('list', { name: 'Packs of what was picked' });
  await expect(made.getByRole('link')).toHaveText('Open the PDF (1 paper)');
  const pack = await page.request.get((await made.getByRole('link').getAttribute('href'))!);
  expect((await pack.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Issue again …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Issue it again' }).click();
  await expect(dialog).toContainText('A reason is lacking');
  await dialog.getByLabel('Why').fill('Lost in the post');
  await dialog.getByRole('button', { name: 'Issue it again' }).click();
  await expect(papers.getByRole('row', { name: /Freya.*Earlier version/ })).toBeVisible();
  // The new one stands there by itself, once it is pressed.
  await expect(papers.getByRole('row', { name: /Freya/ })).toHaveCount(2);
});

test('the table tells what became of each entry, and the ledge why papers are not ready', async ({
  page,
}) => {
  await reports(page, 'Roll');
  await page.getByRole('button', { name: /^Columns/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'What became of each entry' }).click();
  const grid = page.getByRole('grid').first();
  await grid.focus();
  await page.keyboard.press('End');
  await expect(page.getByRole('columnheader', { name: /Sent to/ })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: /^File/ })).toBeVisible();
  await expect(grid).toContainText('Amara Okonjo-Baptiste.pdf');
  await page.getByRole('button', { name: 'Why', exact: true }).click();
  await page.getByRole('menuitem', { name: /Held papers/ }).click();
  await expect(page.getByRole('option', { name: /Wilhelmina/ })).toBeVisible();
  await expect(page.getByRole('option', { name: /Amara/ })).toHaveCount(0);
  await expectAccessible(page);
});

test('one learner’s letter is changed alone, is marked, taken back and had back', async ({ page }) => {
  await reports(page, 'Page');
  const bar = page.getByRole('region', { name: 'Exception', exact: true });
  await learner(page, 'Ilse Brandtner');
  await expect(bar).toContainText('Only for Ilse Brandtner');
  await expect(page.getByRole('textbox', { name: 'Text of the letter' })).toContainText(
    'Ilse was ill for most of the autumn',
  );
  await expectAccessible(page);
  await learner(page, 'Callum McAllendale');
  await expect(bar).toHaveCount(0);
  await expect(page.getByRole('textbox', { name: 'Text of the letter' })).not.toContainText('Ilse was ill');

  await page.getByRole('button', { name: /Change it only for Callum/ }).click();
  await expect(bar).toContainText('Only for Callum McAllendale');
  await expect(page.getByRole('option', { name: /Callum McAllendale.*has an exception/ })).toBeVisible();
  const text = page.getByRole('textbox', { name: 'Text of the letter' });
  await text.getByText('From the tutor').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' of Callum');
  await saved(page);
  await page.reload();
  await learner(page, 'Callum McAllendale');
  await expect(text).toContainText('From the tutor of Callum');
  await learner(page, 'Priya Ramanathan');
  await expect(text).not.toContainText('of Callum');

  // What is changed for everybody shows in Callum's too.
  await text.getByText('Spring report', { exact: false }).first().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' 2026');
  await saved(page);
  await learner(page, 'Callum McAllendale');
  await expect(text).toContainText('From the tutor of Callum');
  await expect(text).toContainText('2026');
  await expect(paper(page)).toBeVisible();

  await bar.getByRole('button', { name: 'Take it back' }).click();
  await expect(bar).toHaveCount(0);
  await expect(text).not.toContainText('of Callum');
  await page.getByRole('button', { name: 'Have the exception back' }).click();
  await expect(text).toContainText('of Callum');
  await bar.getByRole('button', { name: 'Take it back' }).click();
  await expect(text).not.toContainText('of Callum');
});
