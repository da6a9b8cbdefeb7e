import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';

const SHEET = [
  'First name,Surname,Guardian name,Guardian email,Second email,Tutor email',
  'Ada,Quillfeather,Mrs Quillfeather,quill@families.example,,tutor@thistlequay.example',
  'Bo,Quillfeather,Mrs Quillfeather,Quill@families.example,,tutor@thistlequay.example',
  'Cy,Quillfeather,Mrs Quillfeather,quill@families.example,,other@thistlequay.example',
  'Dov,Ashgrove,,ash@families.example; grove@families.example,,tutor@thistlequay.example',
].join('\n');

test('a family has one message with all its papers, a greeting that names the children, and copies', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Harbour walk');
  await page.getByLabel('File with a table').setInputFiles({
    name: 'walk.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(SHEET),
  });
  await expect(page.getByRole('grid')).toBeVisible();
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('The walk of ');
  await page.getByRole('button', { name: 'Put in First name' }).click();

  await station(page, 'Note');
  const who = page.getByRole('group', { name: 'Who gets it' });
  const arrives = page.getByRole('region', { name: 'What arrives' });
  await expect(who).toContainText('To Guardian email');
  await choose(who.getByRole('button', { name: /^who shares a message/ }), 'a family has one message');
  await choose(
    who.getByRole('button', { name: /^somebody else who gets it/ }),
    'Somebody who gets a copy (cc)',
  );
  await choose(who.getByRole('button', { name: /^who gets a copy/ }), 'Tutor email');
  await choose(who.getByRole('button', { name: /^somebody else who gets it/ }), 'What those at');
  await expect(who).toContainText('(called Guardian name)');
  // What is typed need be no column.
  await who.getByRole('button', { name: /^where answers go/ }).click();
  await page.keyboard.type('walks@thistlequay.example');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Subject' }).click();
  await page.keyboard.type('The walk of ');
  await page.getByRole('button', { name: 'The learners’ names' }).click();
  await page.getByRole('textbox', { name: 'Preview line' }).click();
  await page.keyboard.type('Three papers');
  await page.getByRole('textbox', { name: 'Text of the cover note' }).click();
  await page.keyboard.type('Dear ');
  await page.getByRole('button', { name: 'Whom it goes to' }).click();
  await saved(page);
  await expect(arrives).toContainText('Dear Mrs Quillfeather');
  await expect(arrives).toContainText('The walk of Ada, Bo and Cy');
  await expect(arrives).toContainText('3 learners of one family');
  await expect(arrives).toContainText('tutor@thistlequay.example, other@thistlequay.example');
  await expect(arrives).toContainText('walks@thistlequay.example');
  await expect(arrives.getByText(/\.pdf$/)).toHaveCount(3);
  await expectAccessible(page);
  // The whole message goes to oneself first.
  await page.getByRole('button', { name: 'Try …' }).click();
  const attempt = page.getByRole('dialog');
  await expect(attempt.getByRole('checkbox', { name: /With the cover note/ })).toBeChecked();
  await attempt.getByRole('radio', { name: /Ada/ }).check();
  await expectAccessible(page);
  await attempt.getByRole('button', { name: 'Send the try to yourself' }).click();
  await expect(attempt.getByRole('status')).toContainText('3 papers went to office@thistlequay.example');
  await attempt.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('option', { name: /Dov/ }).click();
  await expect(arrives).toContainText('ash@families.example, grove@families.example');
  await expect(arrives).toContainText('Dear family');
  await choose(
    who.getByRole('button', { name: /^what several addresses get/ }),
    'each address one of its own',
  );
  await expect(arrives).toContainText('Message 1 of 2 to this family');
  await arrives.getByRole('button', { name: 'The next message' }).click();
  await expect(arrives).toContainText('grove@families.example');
  await saved(page);

  await page.getByRole('button', { name: 'Press all 4 papers' }).click();
  await station(page, 'Register');
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(4);
  await page.getByRole('button', { name: 'Dispatch …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('3 messages to 5 addresses');
  await expect(dialog).toContainText('3 at families.example, 2 at thistlequay.example');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Send 3 messages' }).click();
  await expect(page.getByRole('row', { name: /Sent/ })).toHaveCount(4);

  // The other parent asks for it too.
  await page.getByRole('row', { name: /Bo Quillfeather/ }).click();
  await page.getByRole('button', { name: 'Send again …' }).click();
  await expect(dialog).toContainText('One message has had it so far, to quill@families.example: sent.');
  await dialog.getByRole('radio', { name: 'To another address, and to nobody else' }).check();
  await dialog.getByRole('textbox', { name: 'Address' }).fill('other parent');
  await dialog.getByRole('button', { name: 'Send it again' }).click();
  await expect(dialog.getByRole('alert')).toContainText('cannot be right');
  await expectAccessible(page);
  await dialog.getByRole('textbox', { name: 'Address' }).fill('other@families.example');
  await dialog.getByRole('button', { name: 'Send it again' }).click();
  const about = page.getByRole('complementary', { name: 'About the paper' });
  for (const address of ['quill@families.example', 'other@families.example'])
    await expect(about.getByText(address, { exact: true })).toBeVisible();

  await page.getByRole('link', { name: 'Practice post', exact: true }).click();
  await page.getByRole('button', { name: /other@families.example/ }).click();
  await expect(page.getByRole('heading', { name: 'The walk of Bo' })).toBeVisible();
  await page.getByRole('button', { name: /quill@families.example/ }).click();
  await expect(page.getByRole('heading', { name: 'The walk of Ada, Bo and Cy' })).toBeVisible();
});
