import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pressCommand } from '@scriptum/tools/press';
import { pdfText, qpdfCheck } from '../../server/test/testing/pdf.js';

const demo = fileURLToPath(new URL('../../demo/press', import.meta.url));
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'scriptum-press-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

async function press(
  roll: string,
  ...more: string[]
): Promise<{ code: number; said: string; files: string[] }> {
  const file = existsSync(roll) ? roll : path.join(folder, 'roll.csv');
  if (file !== roll) writeFileSync(file, roll);
  const said: string[] = [];
  const out = path.join(folder, 'out');
  const code = await pressCommand(
    ['--roll', file, '--template', path.join(demo, 'letter.json'), '--out', out, ...more],
    (line) => said.push(line),
  );
  const files = existsSync(out)
    ? readdirSync(out, { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.pdf'))
        .sort()
    : [];
  return { code, said: said.join('\n'), files };
}

test('the example: every column of the roll is in the letter', async () => {
  const { code, said, files } = await press(path.join(demo, 'roll.csv'));
  expect({ code, said }).toMatchObject({ code: 0, said: expect.stringContaining('Pressed 6 of 6 papers') });
  expect(files).toContain('8A/Amara Okonjo-Baptiste – Harbour crane.pdf');
  const bytes = readFileSync(path.join(folder, 'out', '8A/Amara Okonjo-Baptiste – Harbour crane.pdf'));
  qpdfCheck(bytes);
  for (const value of [
    'Amara Okonjo-Baptiste',
    '8A',
    'okonjo@families.example.net',
    'Harbour crane',
    'Your drawings are to scale',
    'Try a second material',
  ]) {
    expect(pdfText(bytes)).toContain(value);
  }
});

test('any other roll with the same header, with names of one’s own choice', async () => {
  const roll =
    'Name,Class,Email,Project,Grade,Strength,Next step\n"#panic(""x"") {{Name}} <script>",../8B,x@families.example,P,A,S,N\n,,,,,,\nIlse,8B,,P,A,"two\nlines",N\nIlse,8B,,P,A,S,N\n';
  const { code, files } = await press(roll, '--name', '{{name}} ({{CLASS}})');
  expect(code).toBe(0);
  expect(files).toEqual(['#panic(-x-) {{Name}} -script- (..-8B).pdf', 'Ilse (8B) (2).pdf', 'Ilse (8B).pdf']);
  expect(pdfText(readFileSync(path.join(folder, 'out', files[0]!)))).toContain(
    '#panic("x") {{Name}} <script>',
  );
});

test.each([
  ['a column is missing', 'Name,Class\nIlse,8B\n', [], 1, 'has the field “Project”'],
  [
    'the file name asks for what is not there',
    readFileSync(path.join(demo, 'roll.csv'), 'utf8'),
    ['--name', '{{Shoe size}}'],
    1,
    'The file name has the field “Shoe size”',
  ],
  ['the roll is empty', ' ', [], 1, 'no text in it'],
  ['a header only', 'Name\n', [], 1, 'no rows below'],
  ['the call is not right', 'Name\nx', ['--nonsense'], 2, 'npm run press'],
])('%s: said, nothing pressed, not zero', async (_name, roll, more, code, says) => {
  const result = await press(roll, ...more);
  expect(result).toMatchObject({ code, files: [], said: expect.stringContaining(says) });
});

test('files that are not there are said', async () => {
  const said: string[] = [];
  expect(
    await pressCommand(['--roll', 'nowhere.csv', '--template', 'x', '--out', folder], (line) =>
      said.push(line),
    ),
  ).toBe(1);
  expect(said.join()).toContain('The roll cannot be read');
});
