import { beginnings } from '@scriptum/core/begin';
import type { Folio } from '@scriptum/core/contract';
import type { CellChange } from '@scriptum/core/roll';
import { emptyLetter, type Field, type Letter } from '@scriptum/core/template';
import type { Block } from '@scriptum/core/text';
import { bringInBytes } from '@scriptum/server/roll/bring-in-bytes';
import { patchRoll } from '@scriptum/server/roll/patch-roll';
import type { Running } from '@scriptum/server/server';
import { keepBlob } from '@scriptum/server/store/blobs';
import { AssetRow } from '@scriptum/server/store/entities/folio';
import { School } from '@scriptum/server/store/entities/people';
import { createFolio, loadFolio } from '@scriptum/server/store/folios';
import { newId } from '@scriptum/server/store/id';
import { changeWriting, firstWriting } from '@scriptum/server/store/writings';
import { deflateSync, crc32 } from 'node:zlib';

const SUBJECTS = ['English', 'Mathematics', 'Science', 'History', 'Geography', 'Art', 'Music', 'French'];
/** Different pictures among the learners' own. */
const PHOTOS = 60;

/** A folio of reports of three pages: a table of marks, four charts, a picture of each learner's own, and text. */
export async function makeReports(running: Running, learners: number): Promise<Folio> {
  const { database } = running;
  const school = await database.manager.findOneByOrFail(School, {});
  const head = ['Name', 'Class', ...SUBJECTS.map((subject) => `${subject} mark`), 'Remark'];
  const rows = Array.from({ length: learners }, (_, n) =>
    [
      `Learner ${n}`,
      `8${'ABC'[n % 3]}`,
      ...SUBJECTS.map((_, s) => String((n * 37 + s * 11) % 100)),
      `Remark ${n}: works with care and asks good questions.`,
    ].join(','),
  );
  return database.transaction(async (manager) => {
    const folio = await createFolio(manager, school.id, 'Bench reports', new Date());
    await bringInBytes(manager, school.id, folio.id, {
      name: 'reports.csv',
      bytes: Buffer.from(`${head.join(',')}\n${rows.join('\n')}\n`),
    });
    const assets: string[] = [];
    for (let n = 0; n < PHOTOS; n++) {
      const blobHash = await keepBlob(manager, school.id, noisePng(240, 300, n));
      const id = newId();
      await manager.insert(AssetRow, {
        id,
        schoolId: school.id,
        folioId: folio.id,
        name: `${n}.png`,
        mime: 'image/png',
        blobHash,
      });
      assets.push(id);
    }
    const { roll } = await loadFolio(manager, school.id, folio.id);
    const photo = { id: newId(), title: 'Photo', type: 'picture' as const };
    const cells = roll.entries.map(({ id }, n): CellChange => ({
      entryId: id,
      columnId: photo.id,
      text: `${n}.png`,
      exact: `i:${assets[n % PHOTOS]!}`,
    }));
    const columns = [{ do: 'add' as const, column: photo, behind: null }];
    await patchRoll(manager, school.id, folio.id, { cells, columns });
    const made = await loadFolio(manager, school.id, folio.id);
    const kept = { ...firstWriting(made.writings, 'letter'), schoolId: school.id };
    await changeWriting(manager, kept, { content: report(made), staffId: null });
    return loadFolio(manager, school.id, folio.id);
  });
}

function report({ roll }: Folio): Letter {
  const begun = beginnings(roll, [], newId);
  const of = (kind: string) => begun.filter(({ field }) => field.chart?.kind === kind);
  const table = begun.find(({ field }) => field.table)!;
  const bars = of('bars')[0]!;
  const { within: _, ...course } = bars.field.chart as Extract<Field['chart'], { kind: 'bars' }>;
  const marks = roll.columns.filter(({ title }) => title.endsWith(' mark'));
  const charts: Omit<Field, 'id'>[] = [
    bars.field,
    { name: 'Course', columnId: null, chart: { ...course, kind: 'course', within: [] } },
    ...marks.slice(0, 2).map(({ id, title }): Omit<Field, 'id'> => ({
      name: title,
      columnId: null,
      chart: { kind: 'place', columnId: id, name: title, within: [], axis: title },
    })),
  ];
  const photo = begun.find(({ field }) => field.picture)!;
  const named = (title: string): Omit<Field, 'id'> => ({
    name: title,
    columnId: roll.columns.find((column) => column.title === title)!.id,
  });
  const fields: Field[] = [named('Name'), named('Remark'), photo.field, table.field, ...charts].map(
    (field) => ({ ...field, id: newId() }),
  );
  const place = (n: number): Block => ({ type: 'fieldBlock', attrs: { fieldId: fields[n]!.id } });
  const field = (n: number) => ({ type: 'field' as const, attrs: { fieldId: fields[n]!.id } });
  const text = (words: string) => ({ type: 'text' as const, text: words });
  const filler =
    'The workshop is open on Tuesdays after school, and every learner may finish what was begun. ';
  const paragraph = (): Block => ({ type: 'paragraph', content: [text(filler.repeat(5))] });
  return {
    ...emptyLetter('Bench report'),
    fields,
    body: {
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 1 }, content: [text('Report for '), field(0)] },
        place(2),
        { type: 'paragraph', content: [field(1)] },
        place(3),
        paragraph(),
        place(4),
        place(5),
        paragraph(),
        paragraph(),
        place(6),
        place(7),
        ...Array.from({ length: 3 }, paragraph),
      ],
    },
  };
}

/** A PNG (ISO/IEC 15948) in grey that cannot be made much smaller, as a photograph cannot. */
function noisePng(width: number, height: number, seed: number): Buffer {
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const framed = Buffer.alloc(body.length + 8);
    framed.writeUInt32BE(data.length, 0);
    body.copy(framed, 4);
    framed.writeUInt32BE(crc32(body), body.length + 4);
    return framed;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 0, 0, 0, 0], 8);
  const lines = Buffer.alloc((width + 1) * height);
  let state = seed * 2654435761 + 1;
  for (let at = 0; at < lines.length; at++) {
    state = (state * 1103515245 + 12345) >>> 0;
    lines[at] = at % (width + 1) === 0 ? 0 : state >>> 24;
  }
  return Buffer.concat([
    Buffer.from('89504e470d0a1a0a', 'hex'),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(lines)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
