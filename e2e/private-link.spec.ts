import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

const SHEET = [
  'Name,Guardian email,Born',
  'Ada Quill,quill@links.example,2012-03-04',
  'Bo Marsh,marsh@links.example,2012-11-30',
  'محمد السعدي,alsaadi@links.example,2011-09-01',
].join('\n');
const ICS = 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n';

test('papers go behind a private link that asks a question, and who has not opened it is reminded', async ({
  page,
  browser,
}) => {
  test.setTimeout(150_000);
  await signIn(page);
  await page.getByLabel('Title').fill('Private links');
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'links.csv', mimeType: 'text/csv', buffer: Buffer.from(SHEET) });
  await expect(page.getByRole('grid')).toBeVisible();
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('The report of ');
  await page.getByRole('button', { name: 'Put in Name' }).click();

  await station(page, 'Note');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('Your papers');
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('Dear family');
  const along = page.getByRole('group', { name: 'What goes along' });
  await expect(along).toContainText('With it go the papers, opened without a password');
  // A password for all is typed once, and never shown again.
  await along.getByRole('button', { name: /^with what the papers are opened/ }).click();
  await page.keyboard.type('Pelican 7');
  await page.keyboard.press('Enter');
  await expect(along).toContainText('opened with one password for all');
  await expect(page.locator('body')).not.toContainText('Pelican');
  const arrives = page.getByRole('region', { name: 'What arrives' });
  await expect(arrives).toContainText('locked');
  await along.getByRole('button', { name: /^with what the papers are opened/ }).click();
  await page.getByRole('option', { name: 'without a password' }).click();

  await along.getByRole('button', { name: /^what goes with it/ }).click();
  await page.getByRole('option', { name: /^a private link to the papers/ }).click();
  // It is put into the text by itself.
  await expect(arrives).toContainText('/p/a-link-of-its-own-for-each-message');
  await expect(arrives).toContainText('behind the link');
  await along.getByRole('button', { name: /^what it asks/ }).click();
  await page.getByRole('option', { name: 'for “Born”' }).click();
  await along.getByRole('button', { name: /^for how many days/ }).click();
  await page.getByRole('option', { name: '7 days' }).click();
  await expect(along).toContainText('The link works for 7 days and asks for “Born”');
  const chooser = page.waitForEvent('filechooser');
  await along.getByRole('button', { name: /^something else that goes along/ }).click();
  await page.getByRole('option', { name: /^A file for everybody/ }).click();
  await (await chooser).setFiles({ name: 'dates.ics', mimeType: 'text/calendar', buffer: Buffer.from(ICS) });
  await expect(along).toContainText('For everybody also dates.ics');
  // The crest goes in as a picture that mail programs show.
  await page.getByRole('button', { name: 'The school’s crest' }).click();
  const crest = arrives.locator('img');
  await expect(crest).toHaveAttribute('alt', 'Crest of Thistlequay School');
  await expect
    .poll(() => crest.evaluate((image) => (image as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(100);
  await saved(page);
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Press all 3 papers' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(3);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Send 3 messages' }).click();
  await expect(page.getByRole('row', { name: /Not opened/ })).toHaveCount(3);

  const linkFor = async (address: string): Promise<string> => {
    const get = async (path: string) => (await page.request.get(`/api/practice-post${path}`)).json();
    const { messages } = (await get(`/messages?mailbox=${encodeURIComponent(address)}`)) as {
      messages: { id: string; attachments: number }[];
    };
    // The dates, and the crest in the text.
    expect(messages.at(-1)!.attachments).toBe(2);
    const mail = JSON.stringify(await get(`/messages/${messages.at(-1)!.id}`));
    return /http:[^\s"\\]+\/p\/[\w-]{43}/.exec(mail)![0];
  };
  // A family at a phone.
  const phone = await browser.newContext({ viewport: { width: 390, height: 740 } });
  const family = await phone.newPage();
  await family.goto(await linkFor('quill@links.example'));
  await expect(family.getByRole('heading', { name: 'Your papers' })).toBeVisible();
  await expect(family.locator('body')).not.toContainText('Ada');
  await expectAccessible(family);
  await family.getByLabel('Born').fill('2012-04-03');
  await family.keyboard.press('Enter');
  await expect(family.getByRole('alert')).toContainText('You can try 4 times more');
  await family.getByLabel('Born').fill('2012-03-04');
  await family.getByRole('button', { name: 'Show the papers' }).click();
  const paper = family.getByRole('link', { name: /Ada Quill/ });
  await expect(paper).toBeVisible();
  await expectAccessible(family);
  const there = await family.request.get(new URL((await paper.getAttribute('href'))!, family.url()).href);
  expect((await there.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await expect(page.getByRole('row', { name: /Ada Quill.*Opened/ })).toBeVisible();

  // The school sees it, and withdraws the link.
  await page.getByRole('row', { name: /Ada Quill/ }).click();
  const about = page.getByRole('complementary', { name: 'About the paper' });
  await expect(about).toContainText('opened once');
  await expectAccessible(page);
  await about.getByRole('button', { name: 'Withdraw it' }).click();
  await expect(about).toContainText('withdrawn');
  await family.reload();
  await expect(family.locator('body')).toContainText('The school has withdrawn this link');
  await phone.close();

  await page.getByRole('button', { name: 'Send to many again …' }).click();
  await expect(dialog.getByRole('radio', { name: /refused \(0\)/ })).toBeDisabled();
  await dialog.getByRole('radio', { name: /not opened their private link \(2\)/ }).check();
  await expect(dialog.getByRole('list', { name: 'Who gets mail again' })).toContainText(
    'Had 1 message so far',
  );
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Send 2 messages' }).click();
  await expect(dialog).toBeHidden();
  await expect(async () => {
    const { messages } = (await (
      await page.request.get('/api/practice-post/messages?mailbox=marsh@links.example')
    ).json()) as { messages: unknown[] };
    expect(messages).toHaveLength(2);
  }).toPass();
});
