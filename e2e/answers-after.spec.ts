import { readFile } from 'node:fs/promises';
import { choose, expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { ask, expectFits, publish } from './web-forms.js';

test('a quiz is marked, a copy of the answers is mailed, the paper is taken along, and answers are summed up', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Shapes');
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await station(page, 'Roll');
  await page.getByRole('link', { name: 'Let people answer a form of your own.' }).click();
  await page.getByRole('button', { name: 'Begin a form' }).click();
  const margin = page.getByRole('complementary', { name: 'About the form' });
  await margin.getByLabel('Title', { exact: true }).fill('What do you know of shapes?');
  await ask(page, /^a name/, 'Who are you?');
  await ask(page, /^an email address/, 'Where shall it go?');
  await ask(page, /^a number/, 'How many sides has a hexagon?');
  const marking = margin.getByRole('group', { name: 'Marking' });
  await choose(marking.getByRole('button', { name: /^how many points it gives/ }), '2 points');
  await expect(margin.getByText('Say what is right')).toBeVisible();
  await expectAccessible(page);
  // A quiz in which nothing is right is not published.
  await saved(page);
  await page.getByRole('button', { name: 'Publish the form' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Question 3 gives points' })).toBeVisible();
  await margin.getByLabel('The right number').fill('6');
  await page.getByRole('button', { name: /^What do you know of shapes\?/ }).click();
  const terms = margin.getByRole('group', { name: 'When and how often it is answered' });
  await choose(terms.getByRole('button', { name: /^whether a copy is mailed/ }), 'get a copy of them at');
  await choose(terms.getByRole('button', { name: /^whether they can take/ }), 'can take their paper along');
  await expectAccessible(page);
  await saved(page);
  const link = await publish(page);

  const phone = await browser.newContext({ viewport: { width: 320, height: 640 } });
  const learner = await phone.newPage();
  const answer = async (name: string, sides: string): Promise<void> => {
    await learner.goto(link);
    await learner.getByLabel('First name').fill(name);
    await learner.getByLabel('Surname').fill('Fenn');
    await learner.getByLabel('Where shall it go?').fill(`${name.toLowerCase()}@shapes.example`);
    await learner.getByLabel('How many sides has a hexagon?').fill(sides);
    await learner.getByRole('button', { name: 'Send the answers' }).click();
    await expect(learner.getByRole('heading', { level: 1 })).toContainText('Your answers have arrived');
  };
  await answer('Bo', '5');
  await answer('Ada', '6');
  await expect(learner.getByText('A copy of your answers comes to you by mail')).toBeVisible();
  const own = await learner.getByRole('link', { name: /\/paper\// }).getAttribute('href');
  await expectFits(learner);

  // The letter is written and pressed at the desk meanwhile.
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Text of the letter' }).click();
  await page.keyboard.type('Well done, ');
  await page.getByRole('button', { name: 'Put in First name' }).click();
  await saved(page);
  await page.getByRole('button', { name: 'Press all 2 papers' }).click();
  // It comes by itself to the page that is open, and is there behind its link on another day.
  await expect(learner.getByRole('link', { name: /Ada Fenn.*\.pdf/ })).toBeVisible({ timeout: 120_000 });
  await expectFits(learner);
  await learner.goto(own!);
  const paper = learner.getByRole('link', { name: /Ada Fenn.*\.pdf/ });
  await expectFits(learner);
  const [download] = await Promise.all([learner.waitForEvent('download'), paper.click()]);
  expect((await readFile(await download.path())).subarray(0, 5).toString()).toBe('%PDF-');
  await phone.close();

  await station(page, 'Roll');
  const row = (mail: string) => page.getByRole('grid').getByRole('row').filter({ hasText: mail });
  await expect(row('ada@shapes.example').getByRole('gridcell').last()).toHaveText('2.0');
  await expect(row('bo@shapes.example').getByRole('gridcell').last()).toHaveText('0.0');

  await page.getByRole('link', { name: 'Forms (1)' }).click();
  await page.getByRole('button', { name: 'What was answered' }).click();
  const sides = page.getByRole('region', { name: 'How many sides has a hexagon?' });
  await expect(sides).toContainText('2 answered');
  await expect(sides).toContainText('5 to 6, mean 5.5, median 5.5');
  await expectAccessible(page);

  await page.goto('/practice-post');
  await page
    .getByRole('navigation', { name: 'Mailboxes' })
    .getByRole('button', { name: /ada@shapes\.example/ })
    .click();
  await expect(page.getByText('Your answers: What do you know of shapes?').first()).toBeVisible();
});
