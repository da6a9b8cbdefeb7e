import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

test('the letterhead is changed once, seen on a sample before it is used, and had back', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: 'Letterhead' }).click();
  await expect(page.getByAltText('Page 2 of a sample letter')).toBeVisible();
  const name = page.getByLabel('Name', { exact: true }).first();
  const before = await name.inputValue();
  const use = page.getByRole('button', { name: 'Use it from now on' });
  await expect(use).toBeDisabled();
  await name.fill('Thistlequay Upper School');
  await page.keyboard.press('Tab');
  // Somebody who signs needs a name before any of it is used.
  await page.getByRole('button', { name: 'Add somebody who signs' }).click();
  await page.keyboard.type('Perpetua Linnet');
  await expect(page.getByText('Say who signs.')).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(page.getByText('Say who signs.')).toBeHidden();
  await expectAccessible(page);
  // What is not in use yet is still there after a look at something else.
  await page
    .getByRole('link', { name: /All folios|Thistlequay/ })
    .first()
    .click();
  await page.getByRole('link', { name: /Year 8 spring reports/ }).click();
  await station(page, 'Page');
  const signs = page.getByRole('combobox', { name: 'Put in', exact: true });
  await expect(signs.getByRole('option', { name: /Perpetua/ })).toHaveCount(0);
  await page.getByRole('link', { name: 'Letterhead' }).click();
  await expect(name).toHaveValue('Thistlequay Upper School');
  await use.click();
  await expect(page.getByRole('status').filter({ hasText: /In use\.\s+\d+ letters take it/ })).toBeVisible();
  await page.getByRole('link', { name: 'Back to work' }).click();
  await expect(page).toHaveURL(/\/page$/);
  // It can be put into a letter, stands there as it prints, and is taken back.
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.press('Control+End');
  await signs.selectOption({ label: 'Perpetua Linnet' });
  await expect(editor.getByRole('group', { name: 'Sign-off: Perpetua Linnet' })).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(editor.getByRole('group', { name: 'Sign-off: Perpetua Linnet' })).toBeHidden();
  await saved(page);
  // What it was before is looked at, and used again.
  await page.getByRole('link', { name: 'Letterhead' }).click();
  await page.getByText('What it was before').click();
  await page
    .getByRole('button', { name: /^Look at the letterhead of/ })
    .last()
    .click();
  await expect(name).toHaveValue(before);
  await use.click();
  await expect(page.getByRole('status').filter({ hasText: 'In use.' })).toBeVisible();
});

for (const theme of ['light', 'dark'] as const)
  test(`the letterhead is accessible, and all of it in reach (${theme} theme)`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: theme });
    await signIn(page);
    await page.getByRole('link', { name: 'Letterhead' }).click();
    await expect(page.getByAltText('Page 1 of a sample letter')).toBeVisible();
    await expectAccessible(page);
    await page.setViewportSize({ width: 640, height: 400 });
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add somebody who signs' }).scrollIntoViewIfNeeded();
    await expect(page.getByRole('button', { name: 'Add somebody who signs' })).toBeInViewport();
    // The sample comes below the form, not upon it.
    const last = await page.getByRole('button', { name: 'Add somebody who signs' }).boundingBox();
    const sample = await page.getByRole('region', { name: 'Sample letter' }).boundingBox();
    expect(sample!.y).toBeGreaterThanOrEqual(last!.y + last!.height);
    const width = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(width).toBeLessThanOrEqual(640);
  });
