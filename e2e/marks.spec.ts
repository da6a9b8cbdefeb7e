import type { Locator, Page } from '@playwright/test';
import { expect, expectAccessible, saved, signIn, station, test } from './desk.js';
import { back, expectColumn, pick, steps, workOut } from './worked.js';

const QUIZ = `Name,Class,Maths (40),Essay (20),What holds an arch up?,Pick the strong shapes,Why do bridges move?
Amara,8A,30,16,The keystone,"triangle, arch",Because of the heat.
Łukasz,8A,20,ex,glue,"triangle, square",They breathe.
Zoë,8B,39,19,keystone,"arch, triangle",Wind and heat move them.
Kwabena,8B,,12,the glue,,
`;
const NAMES = ['Amara', 'Łukasz', 'Zoë', 'Kwabena'];

async function startWithQuiz(page: Page, title: string): Promise<void> {
  await signIn(page);
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Start without a sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Who is this for?' })).toBeVisible();
  await page
    .getByLabel('File with a table')
    .setInputFiles({ name: 'quiz.csv', mimeType: 'text/csv', buffer: Buffer.from(QUIZ) });
  await page.getByRole('button', { name: /^Make the roll/ }).click();
  await expect(page.getByRole('grid')).toBeVisible();
}

test('a mark scheme is made, explained, changed and taken back', async ({ page }) => {
  await startWithQuiz(page, 'Scheme');
  await workOut(page, /Mark scheme/);
  // (30 + 16) of 60.
  await expect(steps(page)).toContainText('76.7');
  await page.getByLabel('Name of the group').fill('Term work');
  await page.getByLabel('Name of the group').press('Tab');
  await expect(steps(page)).toContainText('Term work 100');
  await page.getByLabel('How pieces count').selectOption('all the same');
  // 75 % and 80 %.
  await expect(steps(page)).toContainText('77.5');
  await pick(page, 'Łukasz');
  await expect(steps(page)).toContainText('excused');
  await expect(steps(page)).toContainText('does not count');
  await page.getByLabel('Excused: what it counts as').selectOption('counts as 0');
  await expect(steps(page)).toContainText('25 %');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(steps(page)).toContainText('50 %');
  await pick(page, 'Kwabena');
  await expect(steps(page)).toContainText('between 30 and 80');
  await expectAccessible(page);
  await back(page);
  await expectColumn(page, 'Mark', ['77.5', '50.0', '96.3', '60.0']);
  await saved(page);
  await page.reload();
  await expectColumn(page, 'Mark', ['77.5', '50.0', '96.3', '60.0']);
});

test('bands, ranks and a formula follow the mark, and a cell changes them all', async ({ page }) => {
  await startWithQuiz(page, 'Chain');
  await workOut(page, /Mark scheme/);
  await back(page);
  await workOut(page, /Bands/);
  await page.getByLabel('Begin with a scale').selectOption('Words');
  await expect(steps(page)).toContainText('Secure');
  await back(page);
  await workOut(page, /Comparison/);
  await expect(page.getByLabel('Which mark')).toHaveValue(/.+/);
  await page.getByLabel('Which mark').selectOption('Mark');
  await back(page);
  await workOut(page, /Formula/);
  const formula = page.getByRole('textbox', { name: 'Formula' });
  await formula.press('Control+a');
  await formula.pressSequentially('ROUND([Maths (40)] / 40 * 10; 1) & " of 10"');
  await formula.press('Enter');
  await expect(steps(page)).toContainText('7.5 of 10');
  await expect(formula.getByRole('img', { name: /Maths/ })).toBeVisible();
  await formula.press('Control+a');
  await formula.pressSequentially('NOSUCH(1)');
  await formula.press('Enter');
  await expect(steps(page)).toContainText('There is no function NOSUCH');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await back(page);
  await expectColumn(page, 'Mark band', ['Secure', 'Developing', 'Excelling', 'Developing']);
  await expectColumn(page, 'Mark rank', ['2', '4', '1', '3']);
  const grid = page.getByRole('grid');
  await grid.press('Control+Home');
  for (let n = 0; n < 2; n++) await grid.press('ArrowRight');
  await grid.pressSequentially('8');
  await grid.press('Enter');
  await expectColumn(page, 'Mark band', ['Beginning', 'Developing', 'Excelling', 'Developing']);
  await expectColumn(page, 'Mark rank', ['4', '3', '1', '2']);
});

test('answers are marked with a key, and by hand from the keyboard', async ({ page }) => {
  await startWithQuiz(page, 'Key');
  await workOut(page, /Marking key/);
  const question = (title: string): Locator => page.getByRole('region', { name: title });
  const arch = question('What holds an arch up?');
  await arch.getByRole('button', { name: 'keystone', exact: true }).click();
  await arch.getByLabel(/^Right answer to/).fill('the keystone');
  await arch.getByLabel(/^Right answer to/).press('Enter');
  await expect(arch.getByText('Facility 50 %')).toBeVisible();
  await expect(arch.getByText('“glue” (1)').or(arch.getByText('“the glue” (1)'))).toBeVisible();
  await page.getByText('Add questions …').click();
  await page.getByRole('checkbox', { name: 'Pick the strong shapes' }).check();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add those ticked' }).click();
  const shapes = question('Pick the strong shapes');
  await shapes.getByLabel('How it is marked').selectOption('several options');
  await shapes.getByRole('button', { name: 'triangle', exact: true }).click();
  await shapes.getByRole('button', { name: 'arch', exact: true }).click();
  await shapes.getByLabel('How several options give points').selectOption('a part for each right one');
  const why = question('Why do bridges move?');
  await why.getByLabel('How it is marked').selectOption('marked by hand');
  await why.getByLabel('Points', { exact: true }).fill('3');
  await why.getByLabel('Points', { exact: true }).press('Tab');
  await expect(steps(page)).toContainText('1 still open');
  await expectAccessible(page);
  await why.getByRole('button', { name: 'Mark the answers' }).click();
  const pass = page.getByRole('application');
  await expect(pass).toBeFocused();
  await expect(pass.getByText('Because of the heat.')).toBeVisible();
  await page.keyboard.press('2');
  await expect(pass.getByText('They breathe.')).toBeVisible();
  await page.keyboard.press('0');
  await page.keyboard.press('.');
  await page.keyboard.press('5');
  await page.keyboard.press('Enter');
  await expect(pass.getByText('Wind and heat move them.')).toBeVisible();
  await page.keyboard.press('f');
  await expect(page.getByText('3 of 4 marked')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(why).toBeVisible();
  await back(page);
  await expectColumn(page, 'Points: Why do bridges move?', ['2', '0.5', '3', '']);
  await expectColumn(page, 'Score', ['4.0', '1.0', '5.0', '0.0']);
});

test('remarks fit the mark, can be changed for one learner, and are pressed', async ({ page }) => {
  await startWithQuiz(page, 'Remarks');
  await workOut(page, /Remarks/);
  await expect(page.getByLabel('The mark', { exact: true })).toHaveValue(/.+/);
  // 30 of 40 are 75 percent.
  await expect(steps(page)).toContainText('Amara works steadily');
  await page.getByRole('button', { name: 'Write the remark' }).nth(1).click();
  const editor = page.getByRole('textbox', { name: 'Remark' });
  await editor.press('End');
  await editor.pressSequentially(' Well begun.');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(steps(page)).toContainText('Well begun.');
  const title = await page.getByLabel('Title of the column').inputValue();
  await back(page);
  await station(page, 'Page');
  await page.getByRole('textbox', { name: 'Letter' }).click();
  await page.getByRole('button', { name: `Put in ${title}` }).click();
  await expect(page.getByRole('img', { name: /^Field .*: Amara works steadily/ })).toBeVisible();
  await station(page, 'Register');
  await page.getByRole('button', { name: /^Press all/ }).click();
  await expect(page.getByRole('row', { name: /Pressed/ })).toHaveCount(NAMES.length);
});

for (const theme of ['light', 'dark'] as const) {
  test(`the spring reports: every kind of worked column is accessible (${theme} theme)`, async ({ page }) => {
    await page.addInitScript((chosen) => localStorage.setItem('scriptum-theme', chosen), theme);
    await signIn(page);
    await page.getByRole('link', { name: /Year 8 spring reports/ }).click();
    await expect(page.getByRole('img', { name: /Page 1 of the paper/ })).toBeVisible();
    await station(page, 'Roll');
    await expect(page.getByRole('grid')).toBeVisible();
    await page.getByRole('button', { name: 'Columns' }).press('Escape');
    const grid = page.getByRole('grid');
    await grid.focus();
    await grid.press('End');
    await page.getByRole('button', { name: 'How it is worked out' }).click();
    for (const column of [
      'English mark',
      'English level',
      'Spring average',
      'Class average',
      'Attendance',
      'Tutor’s remark',
    ]) {
      await page.getByLabel('Another worked column').selectOption(column);
      await expect(page.getByLabel('Title of the column')).toHaveValue(column);
      await expect(steps(page)).toContainText('Amara Okonjo-Baptiste');
      await expectAccessible(page);
    }
  });
}

test('points by hand are those that were typed, at any pace; all with one answer, and blanks, at once', async ({
  page,
}) => {
  await startWithQuiz(page, 'By hand');
  await workOut(page, /Marking key/);
  const question = (title: string): Locator => page.getByRole('region', { name: title });
  const why = question('Why do bridges move?');
  await why.getByLabel('How it is marked').selectOption('marked by hand');
  await why.getByLabel('Points', { exact: true }).fill('3');
  await why.getByLabel('Points', { exact: true }).press('Tab');
  await why.getByRole('button', { name: 'Mark the answers' }).click();
  const pass = page.getByRole('application');
  await expect(pass).toBeFocused();
  // A quick hand: nothing is waited for between the keys.
  for (const key of ['0', '2', '3']) await page.keyboard.press(key);
  await expect(page.getByText('3 of 4 marked')).toBeVisible();
  // More than there is is refused, with a sentence, and nothing is stored.
  for (const key of ['ArrowUp', '7']) await page.keyboard.press(key);
  await expect(pass.getByText('7 is more than there is: 3 at the most.')).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByText('4 of 4 marked')).toBeVisible();
  await page.getByRole('button', { name: 'All is marked: back to the key' }).click();
  const arch = question('What holds an arch up?');
  await arch.getByLabel('How it is marked').selectOption('marked by hand');
  await arch.getByLabel('Points', { exact: true }).fill('12');
  await arch.getByLabel('Points', { exact: true }).press('Tab');
  await arch.getByRole('button', { name: 'Mark the answers' }).click();
  await expect(pass.getByText('The keystone')).toBeVisible();
  // From ten points on Enter decides; what was typed is not lost by going on.
  for (const key of ['1', '2', 'Enter', '1', 'Enter', '1', '.', '5', 'ArrowDown'])
    await page.keyboard.press(key);
  await page.keyboard.press('ArrowUp');
  await expect(pass.getByText('1.5', { exact: true }).first()).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await back(page);
  await expectColumn(page, 'Points: Why do bridges move?', ['0', '2', '3', '0']);
  await expectColumn(page, 'Points: What holds an arch up?', ['12', '1', '1.5', '']);
});

test('a row of the roll, or a pasted list, is the key', async ({ page }) => {
  await startWithQuiz(page, 'Row as key');
  await workOut(page, /Marking key/);
  await page.getByText('Add questions …').click();
  await page.getByRole('checkbox', { name: 'Pick the strong shapes' }).check();
  await page.getByRole('button', { name: 'Add those ticked' }).click();
  const shapes = page.getByRole('region', { name: 'Pick the strong shapes' });
  await shapes.getByLabel('How it is marked').selectOption('several options');
  await page.getByLabel('The row with the right answers').selectOption('Zoë');
  await expect(shapes.getByText('arch', { exact: true })).toBeVisible();
  await expect(shapes.getByText('triangle', { exact: true })).toBeVisible();
  await pick(page, 'Zoë');
  await expect(steps(page)).toContainText('3 of 3, 100 %');
  await page.getByText('Paste a key …').click();
  await page.getByLabel('Right answers, one for each question, in their order').fill('glue\nThey breathe.');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take these answers' }).click();
  await pick(page, 'Łukasz');
  await expect(steps(page)).toContainText('2 of 3');
});
