import { fileURLToPath } from 'node:url';
import type { Locator, Page } from '@playwright/test';
import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

/** A folio with some learners and a blank certificate. */
async function blankCertificate(page: Page, title: string): Promise<void> {
  await signIn(page);
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await station(page, 'Page');
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  await page.getByRole('button', { name: 'Blank certificate' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Paper' })).toBeVisible();
}

async function goldAward(page: Page, name = 'Gold award'): Promise<void> {
  await signIn(page);
  await page.getByRole('link', { name: /River survey awards/ }).click();
  await station(page, 'Page');
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  await page.getByRole('button', { name: `Write on ${name}` }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('img', { name: /^Page 1 of the paper for/ })).toBeVisible();
}

const put = (page: Page, verb: string): Promise<void> =>
  page
    .getByRole('group', { name: 'Put on the page' })
    .getByRole('button', { name: verb, exact: true })
    .click();
const number = (page: Page, name: string): Locator =>
  page.getByRole('textbox', { name: `${name} in millimetres` });
const onPaper = (page: Page): Locator => page.getByRole('region', { name: 'Paper' }).getByRole('button');

test('a text is put on the page, moved by mouse, keys and numbers, and each step is taken back', async ({
  page,
}) => {
  await blankCertificate(page, 'Placed by hand');
  await put(page, 'text');
  const box = onPaper(page).first();
  await expect(box).toBeFocused();
  await expect(number(page, 'From the left')).toHaveValue('98.5');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Control+ArrowDown');
  await expect(number(page, 'From the left')).toHaveValue('97.5');
  await expect(number(page, 'From the top')).toHaveValue('97.1');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(number(page, 'Width')).toHaveValue('101');
  // The mouse draws it to the middle of the page, and says so with a line.
  const there = (await box.boundingBox())!;
  await page.mouse.move(there.x + 20, there.y + 10);
  await page.mouse.down();
  await page.mouse.move(there.x + 26, there.y - 60, { steps: 4 });
  await page.mouse.move(there.x + 21, there.y - 60, { steps: 3 });
  await expect(page.locator('sc-placed-paper .guide').first()).toBeVisible();
  await page.mouse.up();
  await expect(page.locator('sc-placed-paper .guide')).toHaveCount(0);
  await expect(number(page, 'From the left')).toHaveValue('98');
  await number(page, 'From the top').fill('30');
  await number(page, 'From the top').press('Enter');
  await expect(box).toHaveAccessibleName('Text: 98 mm from the left, 30 mm from the top, 101 by 16 mm');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(number(page, 'From the top')).not.toHaveValue('30');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(number(page, 'From the top')).toHaveValue('97.1');
  await page.getByRole('button', { name: 'Redo' }).click();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(number(page, 'From the top')).toHaveValue('30');
  // What was done is still there, and can still be taken back, after a look at another station.
  await saved(page);
  await station(page, 'Note');
  await station(page, 'Page');
  await onPaper(page).first().click();
  await expect(number(page, 'From the top')).toHaveValue('30');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(number(page, 'From the top')).not.toHaveValue('30');
});

test('a text is written where twice clicked, and is on the paper as it is written', async ({ page }) => {
  await blankCertificate(page, 'Written in');
  await put(page, 'text');
  await onPaper(page).first().dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Gold Award');
  await expect(page.getByRole('button', { name: /^Gold Award: / })).toBeVisible();
  // Escape goes back to the paper, where arrows move it.
  await page.keyboard.press('Escape');
  await expect(onPaper(page).first()).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('End');
  await page.keyboard.type(', first class');
  await expect(page.getByRole('button', { name: /^Gold Award, first class: / })).toBeVisible();
  const sentence = page.getByRole('group', { name: 'How Gold Award, first class looks' });
  await sentence.getByRole('button', { name: /^the size/ }).click();
  await page.keyboard.type('36');
  await page.keyboard.press('Enter');
  await expect(sentence.getByRole('button', { name: /^the size/ })).toContainText('36 pt');
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
});

test('several are put in line, grouped, copied in steps and deleted; the order of reading is changed', async ({
  page,
}) => {
  await blankCertificate(page, 'Arranged');
  for (const [n, verb] of ['line', 'mark', 'shape'].entries()) {
    await put(page, verb);
    for (let k = 0; k <= n; k++) await page.keyboard.press('ArrowDown');
  }
  const places = page.getByRole('list', { name: 'Places of page 1' }).getByRole('button');
  // What has no words lies under the others.
  await expect(places).toHaveText([/Rectangle/, /Line/, /Cross/]);
  await onPaper(page).first().focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('region', { name: '3 places' })).toBeVisible();
  await page.getByRole('button', { name: 'Left edges in line' }).click();
  await page.getByRole('button', { name: 'Make a group' }).click();
  await expect(page.getByRole('button', { name: 'Take the group apart' })).toBeVisible();
  await places.nth(2).click();
  await expect(number(page, 'From the left')).toHaveValue('108.5');
  await page.getByRole('button', { name: 'Read earlier, lie lower' }).click();
  await expect(places).toHaveText([/Rectangle/, /Cross/, /Line/]);
  await page.getByRole('button', { name: 'Several copies in steps' }).click();
  await page.getByRole('textbox', { name: 'How many copies' }).fill('4');
  await page.getByRole('textbox', { name: 'How many copies' }).press('Enter');
  await page.getByRole('button', { name: 'Put them in' }).click();
  await expect(places).toHaveCount(7);
  await onPaper(page).first().focus();
  await page.keyboard.press('Escape');
  await page
    .getByRole('region', { name: 'Paper' })
    .getByRole('button', { name: /^Cross/ })
    .last()
    .focus();
  await page.keyboard.press('Delete');
  await expect(places).toHaveCount(6);
  await page.keyboard.press('Control+z');
  await expect(places).toHaveCount(7);
});

test('a learner’s name is a field, moves on with the learner, and says how it fits for everybody', async ({
  page,
}) => {
  await goldAward(page);
  await page
    .getByRole('list', { name: 'Places of page 1' })
    .getByRole('button', { name: /Name of the learner/ })
    .click();
  // Those who get it by the sorting.
  await expect(page.getByRole('button', { name: 'fits 3' })).toBeVisible();
  const learner = page.getByRole('img', { name: /^Page 1 of the paper for/ });
  await expect(learner).toHaveAccessibleName(/Tane Wharepapa/);
  await page.keyboard.press('Alt+ArrowDown');
  await page.getByRole('listbox').getByText('Freya Holmqvist').click();
  await expect(learner).toHaveAccessibleName(/Freya Holmqvist/);
  // What was picked stays picked.
  await expect(number(page, 'Width')).toHaveValue('220');
  // In a narrow place long names are set smaller, and the one for whom that is not enough is told.
  await number(page, 'Width').fill('52');
  await number(page, 'Width').press('Enter');
  const sentence = page.getByRole('group', { name: 'How Name of the learner looks' });
  await sentence.getByRole('button', { name: /^the least size/ }).click();
  await page.keyboard.type('28');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^too long \d/ })).toBeVisible();
  await expect(page.getByText(/“Name of the learner” in .* is too long for its place/).first()).toBeVisible();
  await page.getByRole('button', { name: /^too long \d/ }).click();
  await expect(page.getByText('Name of the learner: too long')).toBeVisible();
});

test('a certificate that is switched on is pressed, and its file is what was seen', async ({ page }) => {
  await goldAward(page, 'Silver award');
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  const panel = page.getByRole('dialog', { name: 'Letters of this folio' });
  await panel
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'Write on Silver award' }) })
    .getByRole('checkbox')
    .check();
  await page.keyboard.press('Escape');
  await saved(page);
  // One of those who get it.
  await page.getByRole('option', { name: 'Ольга Черненко' }).click();
  await page.getByRole('button', { name: 'Press this one' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Ольга Черненко.*Silver award/ })).toContainText(
    /Pressed|Cleared/,
  );
  await page.getByRole('link', { name: 'Print or save …' }).click();
  await page.getByRole('button', { name: 'Make this pack' }).click();
  const pack = page.getByRole('article', { name: 'For the printer' });
  const open = pack.getByRole('link', { name: 'Open' });
  await expect(open).toBeVisible({ timeout: 30_000 });
  const printed = await page.request.get((await open.getAttribute('href'))!);
  expect(printed.headers()['content-type']).toBe('application/pdf');
});

test('an ornament is changed by its sentence, a box stands for some only, and pages have sizes', async ({
  page,
}) => {
  await goldAward(page);
  await page
    .getByRole('list', { name: 'Places of page 1' })
    .getByRole('button', { name: /Border/ })
    .click();
  const border = page.getByRole('group', { name: 'How Border looks' });
  await choose(border.getByRole('button', { name: /^its pattern/ }), 'leaves');
  await expect(border).toContainText('A border of leaves');
  await page
    .getByRole('list', { name: 'Places of page 1' })
    .getByRole('button', { name: /In the seal/ })
    .click();
  const part = page.getByRole('region', { name: 'When it stands' });
  await choose(part.getByRole('button', { name: /^when it stands/ }), 'Only if');
  await choose(part.getByRole('button', { name: /^whose value is looked at/ }), 'Class');
  await part.getByRole('button', { name: /^what it is compared with/ }).click();
  await page.keyboard.type('8C');
  await page.keyboard.press('Enter');
  await expect(part.getByRole('button', { name: 'for 4 of 8' })).toBeVisible();
  await page.getByText('Pages and type').click();
  const paper = page.getByRole('group', { name: 'The paper' });
  await choose(paper.getByRole('button', { name: /^its size/ }), 'A5');
  await expect(paper).toContainText('The paper is A5, lying');
  await page.getByRole('button', { name: 'Another page' }).click();
  await expect(page.getByRole('group', { name: /^Page 2 of 2/ })).toBeVisible();
  await page.getByRole('button', { name: 'Delete page 2' }).click();
  await expect(page.getByRole('group', { name: /^Page 2 of 2/ })).toHaveCount(0);
});

test('the station is accessible, in the dark and in a small window too, and every place is reached by keys', async ({
  page,
}) => {
  await goldAward(page);
  await expectAccessible(page, 'sc-placed-paper .place');
  await page.getByRole('button', { name: 'Rulers and a grid' }).click();
  const first = onPaper(page).first();
  await first.focus();
  await expectAccessible(page, 'sc-placed-paper .place');
  const names: string[] = [];
  const count = await onPaper(page).count();
  for (let n = 0; n < count; n++) {
    names.push(await page.evaluate(() => document.activeElement?.getAttribute('data-box') ?? ''));
    await page.keyboard.press('Tab');
  }
  // In the order in which they are read, each once.
  expect(new Set(names).size).toBe(count);
  expect(names).toEqual(
    await onPaper(page).evaluateAll((all) => all.map((one) => one.getAttribute('data-box'))),
  );
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.setViewportSize({ width: 1024, height: 700 });
  await expectAccessible(page, 'sc-placed-paper .place');
});

test('starters of certificates are shown for the picked learner, and one becomes a certificate', async ({
  page,
}) => {
  await goldAward(page);
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  await page.getByRole('button', { name: 'From a starter' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin with' });
  await expect(dialog.getByRole('heading', { name: 'Certificates' })).toBeVisible();
  await dialog.getByRole('button', { name: /Certificate, garden/ }).click();
  await expect(
    page.getByRole('button', { name: /^Letters of this folio: Certificate, garden/ }),
  ).toBeVisible();
  await expect(onPaper(page).first()).toBeVisible();
});

test('the pages of a certificate stand behind a letter in one paper, and are arranged there', async ({
  page,
}) => {
  await goldAward(page, 'River survey awards');
  await page.getByText('Pages behind the text').click();
  await page
    .getByRole('combobox', { name: 'The pages of a certificate' })
    .selectOption({ label: 'Silver award' });
  await expect(page.getByText('Page 1 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Arrange it' }).click();
  await expect(page.getByText('River survey awards has these pages behind its text.')).toBeVisible();
  await expectAccessible(page, 'sc-placed-paper .place');
  const name = onPaper(page)
    .filter({ hasText: /^$/ })
    .and(page.getByRole('button', { name: /^Name of the learner/ }));
  await name.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();
  await page.getByRole('button', { name: 'Back to the text' }).click();
  // What is written in the letter leaves its pages alone.
  await expect(page.getByText('One page with boxes stands behind the text')).toBeVisible();
  await page
    .getByRole('textbox', { name: /letter/i })
    .first()
    .click();
  await page.keyboard.type('Well done. ');
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByText('Page 1 of 2')).toHaveCount(0);
});

test('a form that ships with Scriptum comes with places in its blanks, filled from the columns that agree', async ({
  page,
}) => {
  await goldAward(page);
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  await page.getByRole('button', { name: 'From a starter' }).click();
  const dialog = page.getByRole('dialog', { name: 'Begin with' });
  await dialog.getByRole('button', { name: /^Report sheet/ }).click();
  await expect(page.getByRole('button', { name: /^Letters of this folio: Report sheet/ })).toBeVisible();
  const places = page.getByRole('list', { name: 'Places of page 1' }).getByRole('button');
  await expect(places.filter({ hasText: 'Remark' })).toHaveCount(9);
  await expect(page.getByRole('button', { name: /^Name: / })).toBeVisible();
  // Nothing is left to be found, and it goes again as it came.
  await page.getByRole('button', { name: 'Look for blanks in the form' }).click();
  await expect(page.getByText('No blanks are found on which no place stands yet.')).toBeVisible();
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  await page
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'Write on Report sheet' }) })
    .getByRole('button', { name: /^Delete/ })
    .click();
});

test('a PDF form becomes the ground, its blanks are found and filled from the columns that agree, and it is pressed', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('link', { name: /Instrument loans/ }).click();
  await station(page, 'Page');
  await page.getByRole('button', { name: /^Letters of this folio/ }).click();
  const panel = page.getByRole('dialog', { name: 'Letters of this folio' });
  const refused = panel.getByLabel('PDF whose pages lie under the places');
  await refused.setInputFiles({
    name: 'broken.pdf',
    mimeType: 'application/pdf',
    buffer: Buffer.from('%PDF-1.7 x'),
  });
  await expect(page.getByText(/This file is no PDF that can be read/)).toBeVisible();
  await refused.setInputFiles(fileURLToPath(new URL('../demo/loans/form.pdf', import.meta.url)));
  await expect(page.getByRole('button', { name: /^Letters of this folio: form/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Look for blanks in the form' }).click();
  const blanks = page.getByRole('list', { name: 'Blanks of the form' });
  await expect(blanks.getByRole('checkbox', { name: /Inventory number/ })).toBeChecked();
  // A mark of which no cell speaks waits for somebody to say for whom it stands.
  await expect(blanks.getByRole('checkbox', { name: /The family insures/ })).not.toBeChecked();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Put in \d+ places/ }).click();
  const places = page.getByRole('list', { name: 'Places of page 1' });
  await expect(places.getByRole('button', { name: /Instrument/ }).first()).toBeVisible();
  await expect(blanks.getByRole('checkbox', { name: /Inventory number/ })).toHaveCount(0);
  await places.getByRole('button', { name: /Inventory number/ }).click();
  await expect(page.getByRole('textbox', { name: 'Text of Inventory number' })).toContainText('TQ-V-014');
  await saved(page);
  await page.getByRole('button', { name: 'Press this one' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Rhys ap Gwilym.* form/ }).first()).toContainText('Pressed');
});
