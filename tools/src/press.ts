import { picturesOf } from '@scriptum/core/text';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { programValues, typeset } from '@scriptum/core/page';
import { planPapers } from '@scriptum/core/paper';
import { mayPress, preflight } from '@scriptum/core/preflight';
import { columnFor } from '@scriptum/core/column';
import { makeRoll, type Roll } from '@scriptum/core/roll';
import { SHEET_LIMITS } from '@scriptum/core/table';
import { openSheetFile } from '@scriptum/core/workbook';
import { matchFields, readLine, readTemplateFile, type Filing, type Letter } from '@scriptum/core/template';
import { dayIn } from '@scriptum/core/time';
import { checkPicture } from '@scriptum/server/press/check-picture';
import { Typesetter } from '@scriptum/server/press/typesetter';
import { sha256 } from '@scriptum/server/store/blobs';
import { newId } from '@scriptum/server/store/id';
import { firstFiling } from '@scriptum/server/roll/match-fields';

const USAGE = `Presses one PDF for each row of a roll, without server or database.

  npm run press -- --roll FILE.csv --template FILE.json --out FOLDER [--name PATTERN]

  --roll      a CSV file with a header row
  --template  a template file, as docs/template-file.md describes it
  --out       the folder for the PDFs; made where it is missing
  --name      the pattern of the file names, such as "{{Class}}/{{Name}}"

Ends with 0 when all papers were pressed, 1 when something blocks or a paper failed, 2 when the call is not right.`;

/** Something that ends the press, with a sentence and the exit code. */
class Stop extends Error {
  constructor(
    message: string,
    readonly exit: 1 | 2,
  ) {
    super(message);
  }
}

interface Call {
  readonly roll: string;
  readonly template: string;
  readonly out: string;
  readonly name: string | undefined;
}

/** Runs the command. @returns the exit code. */
export async function pressCommand(args: readonly string[], say: (line: string) => void): Promise<number> {
  try {
    return await press(readCall(args), say);
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    say(error.message);
    return error.exit;
  }
}

function readCall(args: readonly string[]): Call {
  let values;
  try {
    ({ values } = parseArgs({
      args: [...args],
      options: {
        roll: { type: 'string' },
        template: { type: 'string' },
        out: { type: 'string' },
        name: { type: 'string' },
        help: { type: 'boolean' },
      },
    }));
  } catch (error) {
    throw new Stop(`${(error as Error).message}\n\n${USAGE}`, 2);
  }
  const { roll, template, out, name, help } = values;
  if (help || !roll || !template || !out) throw new Stop(USAGE, 2);
  return { roll, template, out, name };
}

async function press(call: Call, say: (line: string) => void): Promise<number> {
  const began = performance.now();
  const roll = await loadRoll(call.roll, say);
  const { letter, filing } = await loadTemplate(call, roll);
  const folder = path.dirname(path.resolve(call.template));
  const pictures = await loadPictures(letter, folder);
  const findings = preflight({
    roll,
    templates: [letter],
    filing,
    notes: [],
    assets: new Set(pictures.keys()),
  });
  for (const finding of findings)
    say(`${finding.severity === 'blocking' ? 'Blocks' : 'Look'}: ${finding.message}`);
  if (!mayPress(findings)) throw new Stop('Nothing was pressed.', 1);
  const program = typeset(letter);
  const loaded = {
    ...program,
    pictures: program.assets.map((name) => ({
      hash: sha256(pictures.get(name)!),
      bytes: pictures.get(name)!,
    })),
  };
  const typesetter = new Typesetter({ workers: 2, timeLimit: 10_000 });
  try {
    const { name } = letter;
    const writing = { id: 'letter', kind: 'letter', name, place: 0, version: 1, content: letter } as const;
    const at = new Date();
    const zone = new Intl.DateTimeFormat('en').resolvedOptions().timeZone;
    const planned = planPapers({ roll, templates: [writing], filing }, dayIn(at, zone));
    let pages = 0;
    let failed = 0;
    let next = 0;
    const lane = async (): Promise<void> => {
      while (next < planned.length) {
        const paper = planned[next++]!;
        const set = await typesetter.paper(loaded, programValues(letter, paper.values), at);
        if (!set.ok) {
          failed++;
          say(`Failed: ${paper.learner}: ${set.reason}`);
          continue;
        }
        pages += set.pages;
        const file = path.join(call.out, ...paper.fileName.split('/'));
        await mkdir(path.dirname(file), { recursive: true });
        await writeFile(file, set.bytes);
      }
    };
    await Promise.all([lane(), lane(), lane()]);
    const seconds = ((performance.now() - began) / 1000).toFixed(1);
    say(
      `Pressed ${planned.length - failed} of ${planned.length} papers (${pages} pages) into ${call.out} in ${seconds} s.`,
    );
    return failed > 0 ? 1 : 0;
  } finally {
    await typesetter.close();
  }
}

async function loadRoll(file: string, say: (line: string) => void): Promise<Roll> {
  const bytes = await load(file, 'The roll');
  if (bytes.length > SHEET_LIMITS.bytes * 4)
    throw new Stop(`${file}: the file is far too large for a roll.`, 1);
  const opened = openSheetFile(bytes);
  const laidOut = opened.ok ? opened.value.layOut({}, newId) : opened;
  if (!laidOut.ok) throw new Stop(`${file}: ${laidOut.problem.message}`, 1);
  for (const remark of laidOut.value.sheet.notes) say(`Look: ${remark.message}`);
  return makeRoll(laidOut.value.sheet, newId);
}

async function loadTemplate(call: Call, roll: Roll): Promise<{ letter: Letter; filing: Filing }> {
  const text = (await load(call.template, 'The template')).toString('utf8');
  const read = readTemplateFile(text, newId);
  if (!read.ok) throw new Stop(`${call.template}: ${read.problem.message}`, 1);
  const { columns } = roll;
  const letter = { ...read.value.letter, fields: matchFields(read.value.letter.fields, columns) };
  const pattern = call.name ?? read.value.fileName;
  if (!pattern) return { letter, filing: firstFiling(letter.name, columns) };
  const { fields, line } = readLine(pattern, newId);
  return {
    letter,
    filing: {
      pattern: line,
      fields: fields.map((field) => ({ ...field, columnId: columnFor(field.name, columns)?.id ?? null })),
    },
  };
}

async function loadPictures(letter: Letter, folder: string): Promise<Map<string, Buffer>> {
  const found = new Map<string, Buffer>();
  for (const { attrs } of picturesOf(letter.body)) {
    let bytes: Buffer;
    try {
      bytes = await readFile(path.resolve(folder, attrs.asset));
    } catch {
      // Preflight says that it is missing.
      continue;
    }
    const checked = await checkPicture(bytes);
    if (!checked.ok) throw new Stop(`${attrs.asset}: ${checked.problem.message}`, 1);
    found.set(attrs.asset, bytes);
  }
  return found;
}

async function load(file: string, what: string): Promise<Buffer> {
  try {
    return await readFile(file);
  } catch (error) {
    throw new Stop(`${what} cannot be read: ${(error as Error).message}`, 1);
  }
}
