import { expect, saved, signIn, station, test } from './desk.js';

test('pictures show in the text as they do on the paper', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /Year 8 spring reports/ }).click();
  await station(page, 'Page');
  const picture = page
    .getByRole('textbox', { name: 'Text of the letter' })
    .getByRole('img', { name: /Crest/ });
  const width = () => picture.evaluate((image) => (image as HTMLImageElement).naturalWidth);
  await expect.poll(width).toBeGreaterThan(0);
  // Also when the text comes back from another station.
  await station(page, 'Note');
  await station(page, 'Page');
  await expect.poll(width).toBeGreaterThan(0);
});

test('what was written can still be undone after a look at another station', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Undo');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await station(page, 'Page');
  const letter = page.getByRole('textbox', { name: 'Text of the letter' });
  await letter.pressSequentially('Dear family,');
  await page.getByRole('button', { name: 'Bold' }).click();
  await page.keyboard.type(' be bold');
  await saved(page);
  await station(page, 'Note');
  const note = page.getByRole('textbox', { name: 'Text of the cover note' });
  await note.pressSequentially('Enclosed is a letter.');
  await station(page, 'Page');
  await expect(letter).toHaveText('Dear family, be bold');
  await letter.press('Control+z');
  await expect(letter).not.toContainText('bold');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(letter.locator('strong')).toHaveText(' be bold');
  // Each text has its own history.
  await station(page, 'Note');
  await note.press('Control+z');
  await expect(note).toHaveText('');
  await saved(page);
  await page.reload();
  await expect(note).toHaveText('');
  await station(page, 'Page');
  await expect(letter).toHaveText('Dear family, be bold');
});
