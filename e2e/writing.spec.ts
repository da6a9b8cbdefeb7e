import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

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

test('a paragraph stands for some only, is dimmed for the others, and is not on their paper', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
  await station(page, 'Page');
  const letter = page.getByRole('textbox', { name: 'Text of the letter' });
  await letter.getByText('Three things to take along').click();
  const part = page.getByRole('region', { name: 'When this block stands' });
  await expect(part).toContainText('This block stands in every paper.');
  await choose(part.getByRole('button', { name: /^when it stands/ }), 'Only if');
  await choose(part.getByRole('button', { name: /^whose value is looked at/ }), 'Team');
  await part.getByRole('button', { name: /^what it is compared with/ }).click();
  await page.keyboard.type('Otters');
  await page.keyboard.press('Enter');
  await expect(part).toContainText('This block stands only if Team is Otters.');
  await expect(letter.locator('.some-papers')).toHaveCount(1);
  await expect(letter.locator('.some-papers.away')).toHaveCount(0);
  await part.getByRole('button', { name: /^for \d+ of 28$/ }).click();
  await expect(page.getByText('Team is “Otters”')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('listbox', { name: 'Learners' }).getByText('Priya').click();
  await expect(letter.locator('.some-papers.away')).toHaveCount(1);
  await expectAccessible(page);
  await saved(page);
  await page.reload();
  await expect(letter.locator('.some-papers')).toHaveCount(1);
  // Back to everybody.
  await letter.getByText('Three things to take along').click();
  await choose(part.getByRole('button', { name: /^when it stands/ }), 'In every paper');
  await expect(letter.locator('.some-papers')).toHaveCount(0);
  await saved(page);
});

test('what a field prints is chosen by keyboard alone, and the paper follows', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
  await station(page, 'Page');
  const letter = page.getByRole('textbox', { name: 'Text of the letter' });
  const chip = letter.locator('.field').filter({ hasText: /^8A$/ }).first();
  await chip.click();
  const sentence = page.getByRole('region', { name: 'What this field prints' }).getByRole('group');
  await expect(sentence).toContainText('Prints Class.');
  // Enter goes into the sentence, Tab from part to part, a few letters and Enter choose.
  await page.keyboard.press('Enter');
  await expect(sentence.getByRole('button', { name: 'what is printed: Class' })).toBeFocused();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await expect(sentence.getByRole('button', { name: 'put something in: +' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox', { name: 'put something in' })).toBeFocused();
  await page.keyboard.press('Enter');
  const between = sentence.getByRole('button', { name: 'what stands between: a space' });
  await between.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'what stands between' })).toBeFocused();
  await expectAccessible(page);
  await page.keyboard.type(', team ');
  await page.keyboard.press('Enter');
  await sentence.getByRole('button', { name: 'the value behind: Guardian email' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'the value behind' })).toBeFocused();
  await page.keyboard.type('tea');
  await page.keyboard.press('Enter');
  await expect(chip).toHaveCount(0);
  await expect(letter).toContainText('(class 8A, team Otters)');
  await expect(sentence).toContainText('Prints Class, then “, team ” and Team.');
  // Escape goes back into the text.
  await page.keyboard.press('Escape');
  await expect(letter).toBeFocused();
  // Who has nothing there can be looked through.
  await letter.locator('.field').nth(2).click();
  await choose(
    sentence.getByRole('button', { name: /^what is done if it is blank/ }),
    'Leave its sentence out',
  );
  await page.getByRole('button', { name: 'blank for 1' }).first().click();
  await expect(page.getByRole('listbox', { name: 'Learners' }).getByRole('option')).toHaveCount(1);
  await page.getByRole('button', { name: 'Show all' }).click();
  await saved(page);
  await page.reload();
  await expect(letter).toContainText('8A, team Otters');
});
