import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

const SHEET = [
  'Name,Guardian email,Own email',
  'Ada Quill,quill@homes.example,ada@pupils.example',
  'Bo Marsh,marsh@homes.example,',
  'Cy Dune,,cy@pupils.example',
  'Di Reed,,',
].join('\n');

test('a second note goes to the learners; both are sent at a pace, stopped, taken back and sent', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page);
  await page.getByLabel('Title').fill('Two notes');
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'two.csv', mimeType: 'text/csv', buffer: Buffer.from(SHEET) });
  await expect(page.getByRole('grid')).toBeVisible();
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('The report of ');
  await page.getByRole('button', { name: 'Put in Name' }).click();

  await station(page, 'Note');
  const write = async (subject: string, text: string): Promise<void> => {
    await page.getByRole('textbox', { name: 'Subject' }).click();
    await page.keyboard.type(subject);
    await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
    await page.keyboard.type(text);
    await saved(page);
  };
  const who = page.getByRole('group', { name: 'Who gets it' });
  await expect(who).toContainText('To Guardian email');
  await write('To the family', 'Dear family');
  await page.getByRole('button', { name: 'Cover notes of this folio: Cover note' }).click();
  const notes = page.getByRole('dialog', { name: 'Cover notes of this folio' });
  await notes.getByRole('button', { name: 'Blank note' }).click();
  await notes.getByRole('textbox', { name: 'Name of note 2' }).fill('To the learner');
  await page.keyboard.press('Tab');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(
    page.getByRole('button', { name: 'Cover notes of this folio: To the learner 2 of 2' }),
  ).toBeFocused();
  await who.getByRole('button', { name: /^who gets it/ }).click();
  await page.getByRole('option', { name: 'Own email' }).first().click();
  await write('To you', 'Dear learner');
  const findings = page.getByRole('complementary', { name: 'About the cover note' });
  await expect(findings).toContainText('Di Reed has no email address');
  await expect(findings).toContainText('“To the learner” does not reach anybody for Bo Marsh');

  await page.getByRole('button', { name: 'Press all 4 papers' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(4);
  const dialog = page.getByRole('dialog');
  const dispatch = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Dispatch …' }).click();
    await expect(dialog).toContainText('4 messages to 4 addresses');
    await expect(dialog).toContainText('2 “Cover note”, 2 “To the learner”');
    await expect(dialog).toContainText(/Without mail, to be printed: .?Di Reed/);
  };
  await dispatch();
  await dialog.getByText('When they leave:').click();
  await dialog.getByRole('checkbox', { name: 'Not before' }).check();
  await expect(dialog.getByRole('alert')).toContainText('Say the day and the time');
  await expect(dialog.getByRole('button', { name: 'Send 4 messages' })).toBeDisabled();
  const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16);
  await dialog.getByLabel('The moment before which none leaves').fill(tomorrow);
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Send 4 messages' }).click();
  const going = page.getByRole('group', { name: 'A dispatch that is not over' });
  await expect(going).toContainText('0 of 4 messages have left, the first one leaves on');
  // Somebody else looks at it too, and sees that it is stopped.
  const other = await page.context().newPage();
  await other.goto(page.url());
  const goingThere = other.getByRole('group', { name: 'A dispatch that is not over' });
  await expect(goingThere).toContainText('0 of 4 messages have left');
  await going.getByRole('button', { name: 'Stop' }).click();
  await expect(going).toContainText(/stopped by .?Marit Osgathorpe/);
  await expect(goingThere).toContainText(/stopped by .?Marit Osgathorpe/);
  await other.close();
  await expectAccessible(page);
  await going.getByRole('button', { name: 'Take back …' }).click();
  await dialog.getByRole('button', { name: 'Take it back' }).click();
  await expect(going).toBeHidden();
  await dispatch();
  await dialog.getByRole('button', { name: 'Send 4 messages' }).click();
  await expect(page.getByRole('row', { name: /Sent/ })).toHaveCount(3);

  // Found over all folios, by the learner’s name.
  await page.getByRole('link', { name: 'All its messages' }).click();
  await expect(page.getByRole('main').getByRole('status')).toContainText('4 messages');
  await page.getByRole('textbox', { name: 'Learner or address' }).fill('quill');
  await expect(page.getByRole('main').getByRole('status')).toContainText('2 messages');
  await page.getByRole('button', { name: 'Ada Quill' }).first().click();
  const told = page.getByRole('complementary', { name: 'The message' });
  await expect(told).toContainText('Practice post');
  const file = page.waitForEvent('download');
  await told.getByRole('link', { name: 'Save as a file' }).click();
  expect((await file).suggestedFilename()).toMatch(/^To (the family|you)\.eml$/);
  await expectAccessible(page);
});

test('mail that comes back is told at the learner, and the practice post says how it behaves', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Comes back');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'back.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Guardian email\nEd Fell,fell@homes.example\n'),
  });
  await expect(page.getByRole('grid')).toBeVisible();
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('The report.');
  await station(page, 'Note');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('Report');
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('Dear family');
  await saved(page);
  const folio = page.url();
  await page.getByRole('link', { name: 'Practice post', exact: true }).click();
  const manner = page.getByRole('combobox', { name: /let the practice post misbehave/ });
  await manner.selectOption('takes all and sends it back');
  await expectAccessible(page);
  await page.goto(folio);
  await page
    .getByRole('button', { name: 'Press all 1 papers' })
    .or(page.getByRole('button', { name: 'Press 1 paper' }))
    .click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Send 1 message' }).click();
  await expect(page.getByRole('row', { name: /Came back/ })).toHaveCount(1);
  await expect(page.getByRole('complementary', { name: 'About the paper' })).toContainText(
    'Mail for Ed Fell was refused, or came back',
  );
  await page.getByRole('link', { name: 'Practice post', exact: true }).click();
  await manner.selectOption('takes all mail');
  await expect(page.getByRole('navigation', { name: 'Mailboxes' })).toContainText(
    'office@thistlequay.example',
  );
});

test('a mail account is filled in, wrong entries are told in sentences, and it is deleted again', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/post-room/accounts');
  await expect(page.getByText('The practice post is on:')).toBeVisible();
  await page.getByRole('button', { name: 'Add a mail account' }).click();
  const form = page.getByRole('region', { name: 'New mail account' });
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByRole('alert')).toContainText('Give the account a name');
  await form.getByLabel('Name', { exact: true }).fill('Office mail');
  await form.getByLabel('Mail server').fill('127.0.0.1');
  await form.getByLabel('User').fill('office');
  await form.getByLabel('Password').fill('tide');
  await form.getByRole('checkbox', { name: /signed/ }).check();
  await expect(form.getByLabel('For the domain')).toHaveValue('thistlequay.example');
  await form.getByRole('checkbox', { name: /^Mail that comes back/ }).check();
  await expect(form.getByLabel('Server of the mailbox')).toHaveValue('127.0.0.1');
  await form.getByLabel('Its line is secured').selectOption('by STARTTLS');
  await expect(form.getByLabel('Its port')).toHaveValue('143');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByRole('alert')).toContainText('inside the network that Scriptum runs in');
  await expectAccessible(page);
  // A documentation address (RFC 5737): nobody answers there.
  await form.getByLabel('Mail server').fill('192.0.2.25');
  await form.getByLabel('Server of the mailbox').fill('192.0.2.25');
  await form.getByRole('button', { name: 'Save' }).click();
  const account = page.getByRole('region', { name: 'Office mail' });
  await expect(account).toContainText('192.0.2.25, port 587, STARTTLS');
  await expect(account).toContainText('office, password kept');
  await expect(account).toContainText('fetched from INBOX at 192.0.2.25, not looked into yet');
  await account.getByText('The record that this domain needs').click();
  await expect(account).toContainText('scriptum._domainkey.thistlequay.example');
  await expectAccessible(page);
  // Another way is on by a person’s word alone.
  await account.getByRole('radio').click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Let mail leave through “Office mail”?');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('The practice post is on:')).toBeVisible();
  await account.getByRole('radio').click();
  await dialog.getByRole('button', { name: 'Let mail leave' }).click();
  await expect(page.getByText('Mail leaves for good,')).toBeVisible();
  await page.getByRole('radio', { name: /Practice post/ }).click();
  await dialog.getByRole('button', { name: 'Put it on' }).click();
  await expect(page.getByText('The practice post is on:')).toBeVisible();
  await account.getByRole('button', { name: 'Delete Office mail' }).click();
  await dialog.getByRole('button', { name: 'Delete' }).click();
  await expect(account).toBeHidden();
});
