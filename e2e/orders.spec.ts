import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';

const SHEET =
  'Name,Mail\nAda Lark,ada@orders.example\nBo Reed,bo@orders.example\nCy Fenn,cy@orders.example\n';

test('an order is written with the keyboard, is blocked until the letter is there, waits for a yes, and sends', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('File with a table').setInputFiles({
    name: 'Sailing trip.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(SHEET),
  });
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
  await station(page, 'Press');
  const parts = page.getByRole('navigation', { name: 'Parts of the station' });
  await parts.getByRole('link', { name: 'By itself' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is done by itself yet' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add an order' }).first().click();
  const sentence = page.getByRole('group', { name: /^What “.*” does$/ });
  await expect(sentence).toContainText('On Monday to Friday');

  // Nothing but the keyboard: another day, another time, a shorter wait.
  await sentence.getByRole('button', { name: /^at what time/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('9.15');
  await page.keyboard.press('Enter');
  await expect(sentence).toContainText('at 09:15');
  await sentence.getByRole('button', { name: /^how long it waits/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('1 day');
  await page.keyboard.press('Enter');
  await expect(sentence).toContainText('within 1 day');
  const name = page.getByLabel('Name of the order');
  await name.fill('Trip letters');
  await name.press('Enter');
  await expect(page.getByRole('switch', { name: '“Trip letters” is on' })).not.toBeChecked();
  await page.getByRole('switch').press('Space');
  await expect(page.getByRole('switch')).toBeChecked();
  await expect(page.getByText(/^Next on \w+ \d+ \w+, 09:15/)).toBeVisible();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Take these 3 now …' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take 3 learners' }).click();
  const did = page.getByRole('region', { name: /^Trip letters:/ });
  await expect(did.getByText('Blocked')).toHaveCount(3);
  await expectAccessible(page);

  // What blocked them is mended, and it goes on by itself.
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('We sail on Friday.');
  await saved(page);
  await station(page, 'Note');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('Sailing trip');
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('See the letter.');
  await saved(page);
  await station(page, 'Press');
  await parts.getByRole('link', { name: 'By itself' }).click();
  await expect(did.getByText('Waits for a yes')).toHaveCount(3);
  await expectAccessible(page);
  await did.getByRole('button', { name: 'Yes, send Ada Lark' }).click();
  await expect(
    page.getByRole('status').filter({ hasText: 'Yes: 1 learner’s papers leave now.' }),
  ).toBeVisible();
  await expect(did.getByText('Sent', { exact: true })).toHaveCount(1);
  await page.getByRole('button', { name: 'No, leave them' }).click();
  await expect(did.getByText('Left', { exact: true })).toHaveCount(2);
  await expect(page.getByRole('button', { name: '1 sent' })).toBeVisible();

  // Deleted by mistake, and had back, off.
  await page.getByRole('button', { name: 'Delete “Trip letters”' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete it' }).click();
  await page.getByRole('button', { name: 'Have “Trip letters” back' }).click();
  await expect(page.getByRole('switch', { name: '“Trip letters” is on' })).not.toBeChecked();
});
