import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

test('pictures show in the text as they do on the paper', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /River survey awards/ }).click();
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
  // Some words of it, selected by the keyboard, for a learner who does not get them.
  await page.getByRole('listbox', { name: 'Learners' }).getByText('Priya').click();
  await letter.getByText('Three things to take along').click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+Control+ArrowRight');
  const words = page.getByRole('region', { name: 'When these words stand' });
  await choose(words.getByRole('button', { name: /^when it stands/ }), 'Only if');
  await choose(words.getByRole('button', { name: /^whose value is looked at/ }), 'Team');
  await words.getByRole('button', { name: /^what it is compared with/ }).click();
  await page.keyboard.type('Otters');
  await page.keyboard.press('Enter');
  await expect(letter.locator('.some-words.away')).toHaveText(/^Three\s?$/);
  await letter.focus();
  await page.keyboard.press('Control+z');
  await expect(letter.locator('.some-words')).toHaveCount(0);
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

test('a table of marks is put in at once, changed by sentences, and stands so on the paper', async ({
  page,
}) => {
  await signIn(page);
  const subjects = ['English', 'History', 'Art'];
  const csv = `Name,Class,${subjects.map((subject) => `${subject} mark`).join(',')}\nAmara,8A,50,61,72\nBo,8A,60,71,82\nCai,8A,70,81,\n`;
  await page.getByLabel('Title').fill('Marks');
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'marks.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await page.keyboard.press('Alt+2');
  await expect(page).toHaveURL(/\/page$/);
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.click();
  await page.getByText('Put in a table, a chart or a picture').click();
  await page.getByRole('button', { name: /Put in Table: Mark of 3/ }).click();
  const table = editor.locator('.field-block table');
  await expect(table.getByRole('row')).toHaveCount(4);
  await expect(table).toContainText('English50');
  // By the keyboard: Enter on the table opens its sentences, Escape goes back.
  const about = page.getByRole('region', { name: 'This table' });
  await editor.press('Enter');
  await expect(about.getByRole('button', { name: /the order of the rows/ })).toBeFocused();
  await choose(about.getByRole('button', { name: /the order of the rows/ }), 'by Mark, from the highest');
  await expect(table.getByRole('row').nth(1)).toContainText('Art72');
  const columns = about.getByRole('group', { name: 'Another column' });
  await choose(columns.getByRole('button'), 'the mean of “Mark”');
  await expect(table.getByRole('row').nth(3)).toContainText('60.0');
  await page.keyboard.press('Escape');
  await expect(editor).toBeFocused();
  // The next learner has no mark in art.
  await page.keyboard.press('F9');
  await page.keyboard.press('F9');
  await expect(table.getByRole('row').nth(3)).toContainText('Art');
  await saved(page);
  await expectAccessible(page);
  // Both, the text, the paper.
  await page.keyboard.press('Alt+0');
  await expect(page.getByRole('region', { name: 'Proof' })).toHaveCount(0);
  await page.keyboard.press('Alt+0');
  await expect(page.getByRole('img', { name: /Page 1 of the paper for Cai/ })).toBeVisible();
  await expect(editor).toBeHidden();
  await page.getByLabel('Size of the proof').selectOption('100 %');
  // A4 is 210 mm wide; 96 px are 25.4 mm (CSS Values 3).
  expect(await page.getByRole('img', { name: /Page 1/ }).evaluate((image) => image.clientWidth)).toBe(794);
  await page.keyboard.press('Alt+0');
  await page.keyboard.press('Alt+4');
  await expect(page).toHaveURL(/\/press$/);
});

test('a folio has several letters: copied, switched off, put in order, deleted and had back', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Letters');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'names.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Class\nAmara,8A\nBo,8B\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.pressSequentially('Dear ');
  // A field while typing: a list at the caret, filtered by what is typed.
  await editor.press('F2');
  const found = page.getByRole('listbox', { name: 'Columns' }).getByRole('option');
  await expect(found).toHaveText([/^Name/, /^Class/]);
  await page.keyboard.type('na');
  await expect(found).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(editor).toHaveText('Dear Amara');
  await expect(editor).toBeFocused();
  // Keys that come before the list is drawn are the list's.
  const atOnce = (keys: string[]): Promise<void> =>
    editor.evaluate((element, all) => {
      for (const key of all)
        element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    }, keys);
  await atOnce(['F2', 'Escape']);
  await expect(page.getByRole('listbox', { name: 'Columns' })).toBeHidden();
  await expect(editor).toBeFocused();
  await atOnce(['F2', 'c', 'l', 'Enter']);
  await expect(editor).toHaveText('Dear Amara8A');
  await expect(editor).toBeFocused();
  await page.keyboard.press('Backspace');
  await expect(editor).toHaveText('Dear Amara');
  await saved(page);
  const menu = page.getByRole('button', { name: /^Letters of this folio/ });
  await menu.click();
  const panel = page.getByRole('dialog', { name: 'Letters of this folio' });
  await panel.getByRole('button', { name: /^Copy/ }).click();
  await expect(panel.getByRole('listitem')).toHaveCount(2);
  const second = panel.getByRole('listitem').nth(1);
  await expect(second.getByRole('textbox')).toHaveValue('Letters 2');
  await expectAccessible(page);
  await second.getByRole('textbox').fill('Reminder');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Escape');
  await expect(menu).toBeFocused();
  // The copy is the one that is written now, and the first is as it was.
  await expect(menu).toContainText('Reminder');
  await editor.press('Control+End');
  await editor.pressSequentially(', please remember');
  await page.getByText('Head and foot of the pages').click();
  const foot = page.getByRole('textbox', { name: 'Foot of the pages, left' });
  await foot.pressSequentially('Reminder, foot ');
  // A field goes where the caret was last, also once something was typed there.
  await page
    .getByRole('region', { name: 'Columns to put in' })
    .getByRole('button', { name: /Name/ })
    .first()
    .click();
  await expect(foot).toHaveText('Reminder, foot Amara');
  await saved(page);
  await expect(page.getByRole('button', { name: 'Press all 4 papers' })).toBeEnabled();
  await station(page, 'Press');
  await expect(page.getByRole('listitem').filter({ hasText: 'Reminder' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Press all 4 papers' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Reminder .*Pressed/ })).toHaveCount(2);
  await station(page, 'Page');
  await menu.click();
  await panel.getByRole('button', { name: 'Write on Letters' }).click();
  await expect(editor).toHaveText('Dear Amara');
  // Each letter has a foot of its own.
  const hidden = { name: 'Foot of the pages, left', includeHidden: true };
  await expect(page.getByRole('textbox', hidden)).toHaveText('');
  await second.getByRole('checkbox', { name: 'Pressed for everybody' }).uncheck();
  await expect(page.getByRole('button', { name: 'All up to date' })).toBeVisible();
  await saved(page);
  await panel.getByRole('button', { name: 'Move Reminder up' }).click();
  await expect(panel.getByRole('listitem').first().getByRole('textbox')).toHaveValue('Reminder');
  await panel.getByRole('button', { name: 'Delete Reminder' }).click();
  await expect(panel.getByRole('listitem')).toHaveCount(1);
  await panel.getByText('Deleted (1)').click();
  await panel.getByRole('button', { name: 'Have it back Reminder' }).click();
  await expect(panel.getByRole('listitem')).toHaveCount(2);
  // One is saved as a file, and brought in as a third.
  const saving = page.waitForEvent('download');
  await panel.getByRole('link', { name: 'Save as a file Reminder' }).click();
  const file = await saving;
  expect(file.suggestedFilename()).toBe('Reminder.zip');
  await panel.getByLabel('Letter that was saved as a file').setInputFiles(await file.path());
  await expect(panel.getByRole('listitem')).toHaveCount(3);
  await expect(panel.getByRole('listitem').last().getByRole('textbox')).toHaveValue('Reminder 2');
  await page.keyboard.press('Escape');
  await expect(editor).toHaveText('Dear Amara, please remember');
});

test('a starter takes the place of a blank letter, with the names and columns of the roll', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Starters');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'names.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Class\nAmara,8A\nBo,8B\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await station(page, 'Page');
  const menu = page.getByRole('button', { name: /^Letters of this folio/ });
  await menu.click();
  await page.getByRole('button', { name: 'From a starter …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin with …' });
  await expect(dialog.getByRole('listitem')).toHaveCount(20);
  await expect(dialog.locator('img').first()).toBeVisible();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: /^Quick paper/ }).click();
  await expect(menu).toContainText('Quick paper');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await expect(editor).toContainText('Amara');
  await expect(editor.locator('.field-block')).toContainText('Class8A');
  await page.keyboard.press('F9');
  await expect(editor.locator('.field-block')).toContainText('Class8B');
  await page.getByRole('button', { name: 'Longest' }).click();
  await expect(editor.locator('.field-block')).toContainText('Class8A');
  await page.getByRole('button', { name: 'Shortest' }).click();
  await expect(editor.locator('.field-block')).toContainText('Class8B');
  await page.getByText('Head and foot of the pages').click();
  await expect(page.getByRole('textbox', { name: 'Foot of the pages, right' })).toHaveText('Page 1 of 1');
  await saved(page);
  await page.reload();
  await expect(editor).toContainText('Amara');
  await expect(page.getByRole('button', { name: 'Press all 2 papers' })).toBeEnabled();
});

test('the text as it is gets a name, is compared with what it became, and is had back', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Versions');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'names.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Class\nAmara,8A\nBo,8B\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.pressSequentially('As it was.');
  await saved(page);
  const versions = page.getByRole('region', { name: 'Versions' });
  await versions.getByText('Versions').click();
  await versions.getByRole('textbox', { name: 'Name of this version' }).fill('Before the trip');
  await versions.getByRole('button', { name: 'Keep' }).click();
  await expect(versions.getByRole('listitem')).toContainText('Before the trip');
  await editor.press('Control+End');
  await editor.pressSequentially(' And more.');
  await saved(page);
  await versions.getByRole('button', { name: /^Look at it/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Before the trip' });
  await expect(dialog.locator('img')).toHaveCount(2);
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Have it as it was then' }).click();
  await expect(editor).toHaveText('As it was.');
  await saved(page);
});

test('footnotes, links, frames and tables are written by keyboard, and what is pasted takes the style of the paper', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('More than text');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'names.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Class\nAmara,8A\nBo,8B\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  const putIn = page.getByRole('combobox', { name: 'Put in', exact: true });
  await editor.pressSequentially('Dear family');
  await putIn.selectOption('footnote');
  await expect(page.getByLabel('Footnote', { exact: true })).toBeFocused();
  await page.keyboard.type('All who care for a learner.');
  await page.keyboard.press('Enter');
  await expect(editor).toBeFocused();
  await page.keyboard.type(', see ');
  await putIn.selectOption('link');
  const address = page.getByLabel('Link leads to');
  await expect(address).toBeFocused();
  await page.keyboard.type('a word');
  await page.keyboard.press('Enter');
  await expect(page.getByText('That is no address of a page or a mailbox.')).toBeVisible();
  await address.fill('www.thistlequay.example');
  await page.keyboard.press('Enter');
  await expect(editor).toBeFocused();
  await expect(editor.getByRole('link')).toHaveAttribute('href', 'https://www.thistlequay.example');
  await page.keyboard.type('.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bring along:');
  await putIn.selectOption('frame');
  await page.getByLabel('a line around it').check();
  await editor.press('End');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await putIn.selectOption('table');
  for (const text of ['What', 'When', 'Where', 'Boots', 'Monday', 'Harbour']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await page.getByRole('button', { name: 'Delete column' }).click();
  await page.getByRole('combobox', { name: 'Lines of the table' }).selectOption('all');
  await expectAccessible(page);
  await expect(editor.getByRole('table').getByRole('row')).toHaveCount(3);
  await saved(page);
  await editor.press('Control+Home');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await editor.evaluate((element) => {
    const data = new DataTransfer();
    data.setData(
      'text/html',
      '<h2 style="color:red; text-align: center">Pasted</h2><p style="font-size:40pt"><b>bold</b> text</p>',
    );
    element.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  const heading = editor.getByRole('heading', { name: 'Pasted' });
  await expect(heading).toHaveCSS('text-align', 'center');
  await expect(editor.locator('[style*="40pt"], [style*="red"]')).toHaveCount(0);
  await saved(page);
  // A place on the paper that is clicked is the one in the text that is written next.
  const paper = page.getByAltText(/Page 1 of the paper/);
  const { width, height } = (await paper.boundingBox())!;
  await expect(async () => {
    await paper.click({ position: { x: width / 2, y: height * 0.09 } });
    await expect(editor).toBeFocused({ timeout: 500 });
  }).toPass();
  await page.keyboard.type('Hello. ');
  await expect(editor.locator('> *').first()).toContainText('Hello.');
  await saved(page);
  await page.getByRole('button', { name: 'Press this one' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Amara.*Pressed/ })).toBeVisible();
  // It is all there when it comes back from the server.
  await page.reload();
  await station(page, 'Page');
  await expect(editor.getByRole('link')).toHaveText('https://www.thistlequay.example');
  await expect(editor.locator('.footnote')).toHaveCount(1);
  await expect(editor.getByRole('columnheader')).toHaveText(['When', 'Where']);
});

test('everything is found by its name from anywhere: stations, learners, folios', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /River survey awards/ }).click();
  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.press('Control+k');
  // Nothing of what is typed goes into the letter.
  await page.keyboard.type('reg');
  const found = page.getByRole('listbox', { name: 'What was found' }).getByRole('option');
  await expect(found.first()).toHaveText(/^To Register/);
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/register$/);
  const people = page.getByRole('listbox', { name: 'Learners' }).getByRole('option');
  const second = (await people.nth(1).getAttribute('title'))!;
  await page.keyboard.press('Control+k');
  await page.keyboard.type(second);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(people.nth(1)).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('bridge');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Title of the folio')).toHaveValue('Bridge-design feedback');
});

test('a letter is written in another language too, and each family gets its own', async ({ page }) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Languages');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'homes.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Home language\nAmara,English\nNadia,Arabic\nBo,\n'),
  });
  await expect(page.getByRole('gridcell', { name: 'Amara' })).toBeVisible();
  await station(page, 'Page');
  const editor = page.getByRole('textbox', { name: 'Text of the letter' });
  await editor.pressSequentially('Dear family');
  await saved(page);
  const menu = page.getByRole('button', { name: /^Letters of this folio/ });
  await menu.click();
  const panel = page.getByRole('dialog', { name: 'Letters of this folio' });
  await panel.getByLabel('Write Languages in another language too').selectOption('Arabic');
  const second = panel.getByRole('listitem').nth(1);
  await expect(second.getByLabel('The column that says it')).toHaveValue(/./);
  await expect(second.getByLabel('What it says, several with commas between')).toHaveValue(
    'Arabic, العربية, ar',
  );
  await expect(second).toContainText('for 1 of 3 learners');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  // It is laid out from the right, and three learners still make three papers.
  await expect(page.locator('.flow[dir=rtl]').filter({ has: editor })).toBeVisible();
  await expect(page.getByText('Amara gets “Languages” instead.')).toBeVisible();
  await editor.press('Control+a');
  await editor.pressSequentially('أسرة عزيزة');
  await saved(page);
  await station(page, 'Press');
  await expect(page.getByRole('listitem').filter({ hasText: 'Arabic' })).toHaveCount(1);
  await page.getByRole('button', { name: 'Press all 3 papers' }).click();
  await station(page, 'Register');
  await expect(page.getByText('3 papers', { exact: true })).toBeVisible();
});
