import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { expect, expectAccessible, signIn, station, test } from './desk.js';

const TITLES = 'Number,Name,Email,Mark';
const learner = (n: number, mark = n): string => `S${n},Learner ${n},n${n}@home.example,${mark}`;
const sheet = (...rows: string[]): string => [TITLES, ...rows, ''].join('\n');
const FIRST = [1, 2, 3, 4, 5, 6].map((n) => learner(n));

test('a file is watched with the keyboard, a newer version comes in by itself, and one that was cut off waits', async ({
  page,
}) => {
  await signIn(page);
  await page.getByLabel('Title').fill('Watched marks');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'marks.csv', mimeType: 'text/csv', buffer: Buffer.from(sheet(...FIRST)) });
  const make = page.getByRole('button', { name: /^Make the roll/ });
  const grid = page.getByRole('grid');
  await expect(make.or(grid)).toBeVisible();
  if (await make.isVisible()) await make.click();
  await station(page, 'Roll');
  await page.getByRole('link', { name: 'Watch for one' }).click();
  await expect(page.getByRole('heading', { name: 'Files that other programs write' })).toBeVisible();
  await expectAccessible(page);

  const folder = path.join(
    process.env['E2E_WATCHED']!,
    (await page.locator('aside code').textContent())!.trim(),
  );
  await mkdir(folder, { recursive: true });
  await writeFile(path.join(folder, 'export-1.csv'), sheet(learner(1, 99), ...FIRST.slice(1), learner(7)));
  await page.getByRole('button', { name: 'Watch a file' }).first().press('Enter');
  const file = page.getByRole('article');
  await expect(file).toContainText('Newer versions of marks.csv lie in the school’s folder as');
  await expect(file).toContainText('Not looked at yet');
  const sentence = file.getByRole('group', { name: /is watched$/ });
  await sentence.getByRole('button', { name: /the file/ }).press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('export-*.csv');
  await page.keyboard.press('Enter');
  await expect(sentence).toContainText('export-*.csv');
  await file.getByRole('switch').press('Space');
  await expect(file.getByText('Taken over last: “export-1.csv”')).toBeVisible();
  await expect(file).toContainText('1 new, 1 changed');

  await writeFile(path.join(folder, 'export-2.csv'), sheet(learner(1)));
  await file.getByRole('button', { name: 'Look now' }).press('Enter');
  await expect(file).toContainText('“export-2.csv” waits for you: 6 of 7 learners are not in it.');
  await expectAccessible(page);
  await file.getByRole('button', { name: 'Look at it' }).press('Enter');
  await expect(page.getByText('6 entries are not in the file any more')).toBeVisible();
  await page.getByRole('button', { name: 'Leave the roll as it is' }).click();
  await expect(grid).toContainText('99');
  await expect(grid).toContainText('Learner 7');
});
