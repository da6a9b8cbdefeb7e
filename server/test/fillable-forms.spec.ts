import {
  PDFArray,
  PDFDict,
  PDFDocument,
  type PDFDropdown,
  PDFTextField,
  StandardFonts,
} from '@cantoo/pdf-lib';
import {
  emptyLetter,
  emptyPlaced,
  fillingForms,
  placedOf,
  withPlaced,
  type Placed,
  type PlacedBox,
} from '@scriptum/core/template';
import { fieldValues, programValues, typeset } from '@scriptum/core/page';
import { findBlanks } from '@scriptum/core/blanks';
import { prepareGround } from '@scriptum/server/ground/prepare-ground';
import { putUnder } from '@scriptum/server/ground/put-under';
import { readMarks } from '@scriptum/server/ground/read-marks';
import type { FieldValue } from '@scriptum/server/store/laid-on';
import { pdfText, qpdfCheck, qpdfFields } from './testing/pdf.js';
import { formFields } from './testing/pdf-reader.js';

/** A form of two pages as another program writes it: texts, cells, marks, a list. */
async function form(): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  const [one, two] = [document.addPage([595, 842]), document.addPage([595, 842])];
  one.drawText('Consent', { x: 60, y: 780, size: 20, font });
  const fields = document.getForm();
  const at = (x: number, y: number, width = 200, height = 22) => ({ x, y, width, height, font });
  fields.createTextField('learner.name').addToPage(one, at(120, 700));
  fields.createTextField('guardian').addToPage(one, at(120, 660));
  const kept = fields.createTextField('office');
  kept.setText('Room 4');
  kept.addToPage(one, at(120, 620));
  const phone = fields.createTextField('phone');
  phone.setMaxLength(6);
  phone.enableCombing();
  phone.addToPage(one, at(120, 580, 120));
  fields.createCheckBox('swims').addToPage(one, at(120, 540, 14, 14));
  const agrees = fields.createRadioGroup('agrees');
  agrees.addOptionToPage('yes', one, at(120, 500, 14, 14));
  agrees.addOptionToPage('no', one, at(160, 500, 14, 14));
  const house = fields.createDropdown('house');
  house.addOptions(['Oak', 'Elm']);
  house.addToPage(two, at(120, 700));
  return document.save();
}

async function blank(pages: number): Promise<Uint8Array> {
  const document = await PDFDocument.create({ updateMetadata: false });
  for (let n = 0; n < pages; n++) document.addPage([595, 842]);
  return document.save();
}
const prepared = async (bytes: Uint8Array) => {
  const ready = await prepareGround(bytes);
  if (!ready.ok) throw new Error(ready.problem.message);
  return ready.value;
};
const both = [
  { ground: 0, page: 0 },
  { ground: 0, page: 1 },
];
const filled = async (values: FieldValue[], ground?: Uint8Array): Promise<Buffer> => {
  const { bytes } = await prepared(ground ?? (await form()));
  return Buffer.from(await putUnder(await blank(2), [bytes], both, 0, values));
};
const VALUES: FieldValue[] = [
  { field: 'learner.name', value: 'Łukasz Nguyễn' },
  { field: 'guardian', value: 'M. Brandt' },
  { field: 'phone', value: '020123' },
  { field: 'swims', value: 'Yes' },
  // The second of its marks: this program numbers them.
  { field: 'agrees', value: '1' },
  { field: 'house', value: 'Elm' },
  { field: 'gone', value: 'nobody' },
];

test('fields stay fields with their values, as two other readers tell them (ISO 32000-1, 12.7)', async () => {
  const file = await filled(VALUES);
  expect(qpdfCheck(file)).toContain('No syntax or stream encoding errors');
  const expected = {
    'learner.name': 'Łukasz Nguyễn',
    guardian: 'M. Brandt',
    office: 'Room 4',
    phone: '020123',
    swims: true,
    agrees: '1',
    house: 'Elm',
  };
  const told = await formFields(file);
  expect(Object.fromEntries(told.map(({ name, value }) => [name, value]))).toEqual(expected);
  // Each where it was.
  const places = (fields: typeof told) => fields.map(({ name, rect }) => [name, ...rect.map(Math.round)]);
  expect(places(told)).toEqual(places(await formFields(await form())));
  expect(qpdfFields(file)).toEqual({
    'learner.name': 'u:Łukasz Nguyễn',
    guardian: 'u:M. Brandt',
    office: 'u:Room 4',
    phone: 'u:020123',
    swims: '/Yes',
    agrees: '/1',
    house: 'u:Elm',
  });
  // What is seen without a program that knows forms.
  const text = pdfText(file);
  for (const seen of ['Consent', 'Łukasz Nguyễn', 'M. Brandt', 'Room 4', 'Elm']) expect(text).toContain(seen);
  expect(text.match(/Room 4/g)).toHaveLength(1);
});

test('what is not filled stays open, and can be filled in by the next program', async () => {
  const file = await filled([{ field: 'guardian', value: '' }]);
  const document = await PDFDocument.load(file);
  const field = document.getForm().getField('learner.name');
  expect(field).toBeInstanceOf(PDFTextField);
  (field as PDFTextField).setText('Later');
  const house = document.getForm().getField('house') as PDFDropdown;
  expect(house.getOptions()).toEqual(['Oak', 'Elm']);
  const later = await formFields(Buffer.from(await document.save()));
  expect(later.find(({ name }) => name === 'learner.name')?.value).toBe('Later');
});

test('values that are hard: longer than the field takes, of scripts that no face here has, with lines', async () => {
  const file = await filled([
    { field: 'learner.name', value: 'محمد' },
    {
      field: 'guardian',
      value: 'A name that is very much longer than its field, which is only 200 points wide',
    },
    { field: 'phone', value: '0201234567' },
    { field: 'house', value: 'Ash' },
  ]);
  expect(qpdfCheck(file)).toContain('No syntax');
  const told = new Map((await formFields(file)).map(({ name, value }) => [name, value]));
  expect(told.get('learner.name')).toBe('محمد');
  expect(told.get('guardian')).toMatch(/^A name .* wide$/);
  // Cells that are too few are left free: such a paper is held.
  expect(told.get('phone')).toBe('');
});

test('what a form would do by itself, and who signed it, does not come along', async () => {
  const document = await PDFDocument.load(await form());
  const { context } = document;
  const name = document.getForm().getTextField('guardian');
  name.acroField.dict.set(
    (await import('@cantoo/pdf-lib')).PDFName.of('AA'),
    context.obj({ K: { S: 'JavaScript', JS: 'app.alert(1)' } }),
  );
  const file = await filled([], await document.save());
  expect(file.toString('latin1')).not.toContain('JavaScript');
  const text = (await PDFDocument.load(file)).context
    .enumerateIndirectObjects()
    .map(([, object]) => String(object))
    .join('\n');
  expect(text).not.toContain('JavaScript');
});

test('a page that is turned is laid under flat; what was made ready before can be made ready again', async () => {
  const document = await PDFDocument.load(await form());
  document.getPages()[0]!.setRotation((await import('@cantoo/pdf-lib')).degrees(90));
  expect((await prepared(await document.save())).about.fillable).toBeUndefined();
  const once = await prepared(await form());
  expect(once.about).toMatchObject({ fillable: true });
  const twice = await prepared(once.bytes);
  expect(twice.about.fillable).toBe(true);
  const file = Buffer.from(await putUnder(await blank(2), [twice.bytes], both, 0, VALUES));
  const told = new Map((await formFields(file)).map(({ name, value }) => [name, value]));
  expect(told.get('guardian')).toBe('M. Brandt');
  expect(pdfText(file).match(/Room 4/g)).toHaveLength(1);
  // Flat, as papers are that only lie on it.
  const flat = Buffer.from(await putUnder(await blank(2), [twice.bytes], both));
  expect(await formFields(flat)).toEqual([]);
  expect(pdfText(flat)).toContain('Room 4');
});

test('places know the fields that they were found by, and say what these are filled with', async () => {
  const [page] = await readMarks(await form());
  const blanks = findBlanks(page!).filter(({ reason }) => reason === 'field');
  expect(blanks.map(({ fills }) => fills)).toEqual([
    { field: 'learner.name' },
    { field: 'guardian' },
    { field: 'office' },
    { field: 'phone' },
    { field: 'swims', mark: 'Yes' },
    { field: 'agrees', mark: '0' },
    { field: 'agrees', mark: '1' },
  ]);
  const at = { page: 0, x: 0, y: 0, width: 50, height: 8 };
  const boxes: PlacedBox[] = [
    {
      kind: 'text',
      id: 'a',
      ...at,
      fills: { field: 'learner.name' },
      body: {
        type: 'doc',
        content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'n' } }] }],
      },
    },
    {
      kind: 'tick',
      id: 'b',
      ...at,
      fills: { field: 'agrees', mark: 'no' },
      part: 'p',
      mark: 'cross',
      colour: '#000000',
      weight: 0.5,
    },
    { kind: 'text', id: 'c', ...at, body: { type: 'doc', content: [{ type: 'paragraph' }] } },
  ];
  const template: Placed = {
    ...emptyPlaced('Form'),
    fields: [{ id: 'n', name: 'Name', columnId: 'c' }],
    parts: [{ id: 'p', if: { all: [] } }] as never,
    pages: [{ ground: { asset: 'g', page: 0 } }],
    fillable: true,
    boxes,
  };
  expect(fieldValues(template, { n: 'Bo' })).toEqual([
    { field: 'learner.name', value: 'Bo' },
    { field: 'agrees', value: 'no' },
  ]);
  // Letters that fields are not set in: printed on the paper, in place of the field.
  expect(fieldValues(template, { n: 'نور' })[0]).toEqual({ field: 'learner.name', value: 'نور', set: true });
  expect(JSON.parse(programValues(template, { n: 'نور' }))).toMatchObject({ 'b0-set': true });
  expect(JSON.parse(programValues(template, { n: 'Ольга' }))).not.toHaveProperty('b0-set');
  const file = await filled([{ field: 'learner.name', value: 'نور', set: true }]);
  expect(qpdfFields(file)).not.toHaveProperty('learner.name');
  expect(qpdfCheck(file)).toContain('No syntax');
  // On screen they are seen at their places; on the paper their fields hold them.
  expect(typeset(template).source.match(/in-field\("b\d", put/g)).toHaveLength(2);
  expect(typeset({ ...template, fillable: false }).source).not.toContain(', put(');
});

test('what would fill a field of a PDF that has none is printed on the page', () => {
  const at = { page: 0, x: 10, y: 10, width: 50, height: 8 };
  const body = {
    type: 'doc' as const,
    content: [{ type: 'paragraph' as const, content: [{ type: 'field' as const, attrs: { fieldId: 'n' } }] }],
  };
  const template: Placed = {
    ...emptyPlaced('Form'),
    fields: [{ id: 'n', name: 'Name', columnId: 'c' }],
    pages: [{ ground: { asset: 'form', page: 0 } }, { ground: { asset: 'flat', page: 0 } }],
    fillable: true,
    boxes: [
      { kind: 'text', id: 'a', ...at, fills: { field: 'name' }, body },
      { kind: 'text', id: 'b', ...at, page: 1, fills: { field: 'name' }, body },
    ],
  };
  const mended = fillingForms(template, (asset) => asset === 'form');
  expect(fieldValues(mended, { n: 'Bo' })).toEqual([{ field: 'name', value: 'Bo' }]);
  expect(typeset(mended).source.match(/in-field\("b\d", put/g)).toHaveLength(1);
  expect(fillingForms(template, () => true)).toBe(template);
  const letter = withPlaced(emptyLetter('L'), template);
  expect(fieldValues(placedOf(fillingForms(letter, () => false))!, { n: 'Bo' })).toEqual([]);
});

test('a field that says nowhere where it stands keeps no form from being one', async () => {
  const { PDFName, PDFString } = await import('@cantoo/pdf-lib');
  const document = await PDFDocument.load(await form());
  const { context } = document;
  const nowhere = context.register(context.obj({ FT: 'Tx', T: PDFString.of('nowhere'), Subtype: 'Widget' }));
  document.getPages()[0]!.node.addAnnot(nowhere);
  document.catalog
    .lookup(PDFName.of('AcroForm'), PDFDict)
    .lookup(PDFName.of('Fields'), PDFArray)
    .push(nowhere);
  const file = await filled(VALUES, await document.save({ updateFieldAppearances: false }));
  const told = new Map((await formFields(file)).map(({ name, value }) => [name, value]));
  expect(told.get('guardian')).toBe('M. Brandt');
  expect(told.has('nowhere')).toBe(false);
});
