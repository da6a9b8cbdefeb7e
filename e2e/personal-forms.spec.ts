import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { ask, expectFits } from './web-forms.js';

const ROLL = [
  'Name,Class,Guardian email,Phone',
  'Ada Lark,8A,lark@families.example,01000 555 901',
  'Bo Reed-Okafor,8A,reed@families.example,',
  'محمد السعدي,8B,saadi@families.example,01000 555 903',
  '',
].join('\n');

test('each learner answers a form by a code or a link of their own, once, in their own row', async ({
  page,
  browser,
}) => {
  test.setTimeout(200_000);
  await signIn(page);
  await page.getByLabel('Title').fill('Museum trip');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'trip.csv', mimeType: 'text/csv', buffer: Buffer.from(ROLL) });
  const make = page.getByRole('button', { name: /^Make the roll/ });
  const grid = page.getByRole('grid');
  await expect(make.or(grid)).toBeVisible();
  if (await make.isVisible()) await make.click();
  await station(page, 'Roll');
  await page
    .getByRole('navigation', { name: 'Parts of the station' })
    .getByRole('link', { name: /^Forms/ })
    .click();
  await page.getByRole('button', { name: 'Begin a form' }).click();
  const margin = page.getByRole('complementary', { name: 'About the form' });
  await margin.getByLabel('Title', { exact: true }).fill('Museum trip');
  const terms = margin.getByRole('group', { name: 'When and how often it is answered' });
  await terms.getByRole('button', { name: /^who answers it/ }).click();
  await page.getByRole('option', { name: /^each learner of the roll/ }).click();
  await terms.getByRole('button', { name: /^whether the moment is noted/ }).click();
  await page.getByRole('option', { name: /^also stands in a column/ }).click();
  await expect(terms).toContainText('one for each learner');
  await ask(page, /^a yes/, 'My child may go to the museum');
  await ask(page, /^a telephone number/, 'Whom we ring');
  await saved(page);
  await page.getByRole('button', { name: 'Publish the form' }).click();
  await expect(page.getByText('Each learner has a link of their own')).toBeVisible();
  await expectAccessible(page);
  const link = (await page.getByRole('link', { name: /\/f\// }).getAttribute('href'))!;

  await page.getByRole('link', { name: 'Table' }).click();
  // As somebody would who prints them.
  const folio = /folio\/(\w+)/.exec(page.url())![1]!;
  const file = await (await page.request.get(`/api/folios/${folio}/roll-file?kind=csv`)).text();
  const code = /[0-9A-Z]{5}-[0-9A-Z]{5}/.exec(file)![0];
  expect(file).toContain(`${link}/for/`);

  const phone = await browser.newContext({ viewport: { width: 360, height: 740 } });
  const family = await phone.newPage();
  await family.goto(link);
  await expect(family.getByText('This form is answered for one learner at a time')).toBeVisible();
  await expectFits(family);
  await family.keyboard.press('Tab');
  await family.keyboard.type('not mine 1');
  await family.keyboard.press('Enter');
  await expect(family.getByRole('alert')).toHaveText(/^No form has this code/);
  await family.getByLabel('Code').fill(code.toLowerCase());
  await family.keyboard.press('Enter');
  await expect(family.getByText('For Ada Lark')).toBeVisible();
  await expectFits(family);
  await family.getByRole('checkbox').check();
  await family.getByLabel('Whom we ring').fill('01000 555 999');
  await family.getByRole('button', { name: 'Send the answers' }).click();
  await expect(family.getByRole('heading', { level: 1 })).toHaveText('Thank you. Your answers have arrived.');
  await expect(family.getByRole('button', { name: 'Answer once more' })).toHaveCount(0);
  await family.reload();
  await expect(family.getByRole('heading', { level: 1 })).toHaveText(/^This form has been answered already/);
  await expectFits(family);
  await family.close();

  await expect(grid).toContainText('01000 555 999');
  await expect(page.getByText(/Answered\s+.*on/).first()).toBeVisible();
  await expect(page.getByText('Form, 1 answer on the roll')).toBeVisible();

  // Another address afterwards.
  const [, second] = [...file.matchAll(/[0-9A-Z]{5}-[0-9A-Z]{5}/g)].map(([one]) => one);
  await page.getByRole('link', { name: 'Show the form' }).click();
  await page.getByRole('button', { name: /The form itself/ }).click();
  await terms.getByRole('button', { name: /^where they go then/ }).click();
  const there = new URL('/h/openapi.json', link).href;
  await page.keyboard.type(there);
  await page.keyboard.press('Enter');
  await expect(terms).toContainText(`go on to ${there}`);
  await saved(page);
  await page.getByRole('button', { name: 'Publish the changes' }).click();
  await expect(page.getByText('Changed since it was published')).toHaveCount(0);
  const other = await phone.newPage();
  await other.goto(`${link}/for/${second}`);
  await expect(other.getByText('For Bo Reed-Okafor')).toBeVisible();
  await other.getByRole('checkbox').check();
  await other.getByRole('button', { name: 'Send the answers' }).click();
  await other.waitForURL(there);
  await phone.close();
});
