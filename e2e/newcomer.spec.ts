import { readFile } from 'node:fs/promises';
import JSZip from 'jszip';
import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

const SHEET = [
  'First_Name,Surname,Parent e-mail,Remark',
  'Amara,Okonjo,amara@families.example,"Careful work, and ""very"" neat."',
  'محمد,السعدي,mohammed@families.example,Brave',
  '"#panic(""x"") {{Name}} <script>",X,evil@families.example,Bold',
  'Ilse,Brandt,ilse at home,Quick',
].join('\r\n');

test('the newcomer’s path: from a sheet of responses to letters in the families’ mailboxes', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await signIn(page);

  // The demo folio has its first learner's letter on screen.
  await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
  const paper = page.getByRole('img', { name: /Page 1 of the paper for/ });
  await expect(paper).toHaveAccessibleName('Page 1 of the paper for Amara Okonjo-Baptiste');
  await expect
    .poll(() => paper.evaluate((image: HTMLImageElement) => image.naturalWidth))
    .toBeGreaterThan(100);
  await page.keyboard.press('F9');
  await expect(paper).toHaveAccessibleName('Page 1 of the paper for Łukasz Wiśniewski');
  await page.getByRole('option', { name: 'Priya Ramanathan' }).click();
  await expect(paper).toHaveAccessibleName('Page 1 of the paper for Priya Ramanathan');
  await page.getByRole('button', { name: 'Previous learner' }).click();
  await expect(paper).toHaveAccessibleName('Page 1 of the paper for محمد السعدي');

  // A folio of one's own.
  await page.getByRole('link', { name: 'Thistlequay School' }).click();
  await page.getByLabel('Title').fill('Kite workshop');
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'kites.csv', mimeType: 'text/csv', buffer: Buffer.from(SHEET) });
  await expect(page.getByRole('gridcell', { name: 'Careful work, and "very" neat.' })).toBeVisible();
  await expect(page.getByRole('gridcell', { name: '#panic("x") {{Name}} <script>' })).toBeVisible();

  // A letter with formatting and fields.
  await station(page, 'Page');
  const text = page.getByRole('textbox', { name: 'Text of the letter' });
  await text.click();
  await page.keyboard.type('Dear ');
  await page.getByRole('button', { name: 'Bold', exact: true }).click();
  await page.getByLabel('Colour', { exact: true }).selectOption('#A63D40');
  await page.getByRole('button', { name: 'Put in First_Name' }).click();
  await page.getByRole('button', { name: 'Bold', exact: true }).click();
  await page.keyboard.type(',');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Put in Remark' }).click();
  await page.keyboard.type(' Well done, ');
  await page.getByRole('button', { name: 'Put in First_Name' }).click();
  await page.keyboard.press('Enter');
  await page.getByLabel('Kind of paragraph').selectOption('h2');
  await page.keyboard.type('What next');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Bullet list' }).click();
  await page.keyboard.type('Fly it');
  await page.getByLabel('Picture file').setInputFiles({
    name: 'kite.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><path d="M5 0l4 5-4 5-4-5z" fill="#1D6B61"/></svg>',
    ),
  });
  await expect(text.locator('figure img')).toBeVisible();
  const chip = text.locator('.field').first();
  await expect(chip).toHaveText('Amara');
  await expect(chip.locator('xpath=ancestor-or-self::*[self::strong]')).toHaveCount(1);
  await page.keyboard.press('F9');
  await expect(chip).toHaveText('محمد');
  await page.keyboard.press('F8');
  await page.getByText('Paper and type').click();
  await page.getByRole('combobox', { name: /^Paper/ }).selectOption('Letter');
  await page.getByLabel('Left margin, mm').fill('30');
  await page.getByLabel('Left margin, mm').press('Tab');
  await saved(page);

  // A new title for a column: the field follows.
  await station(page, 'Roll');
  await page.getByRole('button', { name: 'Column First_Name' }).click();
  await page.getByRole('menuitem', { name: 'New title' }).click();
  await page.getByLabel('New title of First_Name').fill('Called');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('columnheader', { name: 'Called' })).toBeVisible();
  await station(page, 'Page');
  await expect(
    page.getByRole('textbox', { name: 'Text of the letter' }).locator('.field').first(),
  ).toHaveText('Amara');

  // A field without a column blocks, and is matched by hand.
  await page.locator('summary', { hasText: /What the \d+ fields print/ }).click();
  const remark = page.getByRole('group', { name: 'What Remark prints' }).first();
  await choose(remark.getByRole('button', { name: 'what is printed: Remark' }), 'No column yet');
  await expect(page.getByText('Blocks the press')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Press all/ })).toBeDisabled();
  await choose(remark.getByRole('button', { name: /^what is printed/ }), 'Remark');
  await expect(page.getByText('Blocks the press')).toBeHidden();

  // The cover note: the address column was found.
  await station(page, 'Note');
  await expect(page.getByRole('group', { name: 'Who gets it' })).toContainText('To Parent e-mail');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('Kites and ');
  await page.getByRole('button', { name: 'Put in Called' }).click();
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('Dear family of ');
  await page.getByRole('button', { name: 'Put in Called' }).click();
  await expect(page.getByRole('region', { name: 'What arrives' })).toContainText('Dear family of Amara');
  await expect(page.getByRole('complementary', { name: 'About the cover note' })).toContainText(
    'ilse at home',
  );

  // One paper to try, then all.
  await page.getByRole('button', { name: 'Press this one' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Amara Okonjo/ })).toContainText('Pressed');
  await page.getByRole('button', { name: 'Press 3 papers' }).click();
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(4);
  await expect(page.getByRole('button', { name: 'All up to date' })).toBeDisabled();

  // The files.
  const pdf = await page.request.get(
    (await page.getByRole('link', { name: 'Open the PDF' }).getAttribute('href'))!,
  );
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('link', { name: 'Print or save …' }).click();
  await page.getByRole('button', { name: 'ZIP archive' }).click();
  const archive = page.getByRole('article', { name: 'ZIP archive with folders' });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    archive.getByRole('link', { name: 'Save' }).click({ timeout: 30_000 }),
  ]);
  expect(download.suggestedFilename()).toBe('Kite workshop.zip');
  const zip = await JSZip.loadAsync(await readFile(await download.path()));
  // And a sheet that lists them.
  expect(Object.keys(zip.files)).toHaveLength(5);
  await station(page, 'Register');

  // Dispatch says who gets mail before anything leaves; closing it sends nothing.
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('3 messages to 3 addresses');
  await expect(dialog).toContainText('Ilse Brandt');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('row', { name: /Sent/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Send 3 messages' }).click();
  await expect(page.getByRole('row', { name: /Sent/ })).toHaveCount(3);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  await expect(page.getByRole('dialog')).toContainText('Nobody is left to write to');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();

  // The practice post.
  await page.getByRole('link', { name: 'Practice post', exact: true }).click();
  await page.getByRole('button', { name: /evil@families.example/ }).click();
  await expect(page.getByRole('heading', { name: 'Kites and #panic("x") {{Name}} <script>' })).toBeVisible();
  // No script may run in the message's frame, so its text is asked for by itself.
  const html = await page.request.get((await page.locator('iframe').getAttribute('src'))!);
  expect(await html.text()).toContain('Dear family of #panic(&#34;x&#34;) {{Name}} &#60;script&#62;');
  await page.getByRole('button', { name: 'Plain text' }).click();
  await expect(page.getByText('Dear family of #panic("x") {{Name}} <script>')).toBeVisible();
  await expectAccessible(page);
  const attachment = page.getByRole('link', { name: /Kite workshop .*\.pdf/ });
  const attached = await page.request.get((await attachment.getAttribute('href'))!);
  expect((await attached.body()).subarray(0, 5).toString()).toBe('%PDF-');

  // Everything is as it was after a reload.
  await page.getByRole('link', { name: 'Thistlequay School' }).click();
  await page.getByRole('link', { name: /Kite workshop/ }).click();
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Text of the letter' })).toContainText('What next');
  await page.getByText('Paper and type').click();
  await expect(page.getByLabel('Left margin, mm')).toHaveValue('30');
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Sent/ })).toHaveCount(3);
});

test('the proof follows the typing', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /Bridge-design feedback/ }).click();
  const paper = page.getByRole('img', { name: /Page 1 of the paper/ });
  await expect(paper).toBeVisible();
  await page
    .getByRole('textbox', { name: 'Text of the letter' })
    .getByText('Three things to take along')
    .click();
  await page.keyboard.press('End');
  for (let n = 0; n < 3; n++) {
    const before = await paper.getAttribute('src');
    await page.keyboard.press('x');
    await expect(paper).not.toHaveAttribute('src', before!);
  }
  // What was typed is taken back, so that the demo stays as it is.
  for (let n = 0; n < 3; n++) await page.keyboard.press('Backspace');
  await saved(page);
});
