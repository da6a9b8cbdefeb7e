import { readFileSync } from 'node:fs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { openArchive, openSheetFile } from './index.js';
import { zerosZip } from '../../test/zeros-zip.js';

const all = (): boolean => true;
const code = (bytes: Uint8Array): string => {
  const opened = openArchive(bytes, all);
  return opened.ok ? 'opened' : opened.problem.code;
};

test('the parts are those that another unpacker sees (fflate), byte for byte', () => {
  for (const name of ['school-1900.xlsx', 'school-1904.xlsx', 'school-1900.ods']) {
    const bytes = new Uint8Array(readFileSync(new URL(`../../fixtures/${name}`, import.meta.url)));
    const opened = openArchive(bytes, all);
    const theirs = unzipSync(bytes);
    if (!opened.ok) throw new Error(opened.problem.code);
    expect([...opened.value.names].sort()).toEqual(Object.keys(theirs).sort());
    for (const [part, content] of Object.entries(theirs))
      expect(Buffer.from(opened.value.parts[part]!).equals(Buffer.from(content))).toBe(true);
  }
});

test('only what is asked for is kept, names in UTF-8 and odd ones among it', () => {
  const zip = zipSync({ 'a.xml': strToU8('one'), 'ü/é.csv': strToU8('two'), __proto__x: strToU8('three') });
  const opened = openArchive(zip, (name) => name.endsWith('.csv'));
  if (!opened.ok) throw new Error(opened.problem.code);
  expect(opened.value.names).toEqual(['a.xml', 'ü/é.csv', '__proto__x']);
  expect(Object.keys(opened.value.parts)).toEqual(['ü/é.csv']);
  expect(strFromU8(opened.value.parts['ü/é.csv']!)).toBe('two');
});

// D. Fifield, “A better zip bomb” (WOOT 2019): parts that share one compressed stream.
test('parts that share their bytes are refused before anything is unpacked', () => {
  expect(code(zerosZip(200, 1_000_000, 'shared'))).toBe('unpacks-too-large');
  expect(openSheetFile(zerosZip(200, 1_000_000, 'shared'))).toMatchObject({ ok: false });
});

test('what swells is stopped while it swells, also in parts that nobody asked for', () => {
  const bomb = zerosZip(90, 4_000_000, 'apart');
  expect(bomb.length).toBeLessThan(500_000);
  const opened = openArchive(bomb, () => false);
  expect(opened.ok || opened.problem.code).toBe('unpacks-too-large');
});

test('an archive whose figures lie, or that is cut off, is damaged', () => {
  const good = zipSync({ 'a.xml': strToU8('x'.repeat(5000)) });
  expect(code(good)).toBe('opened');
  const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer);
  const lie = (at: number, value: number): Uint8Array => {
    const bytes = good.slice();
    view(bytes).setUint32(at, value, true);
    return bytes;
  };
  const directory = view(good).getUint32(good.length - 22 + 16, true);
  // A size that reaches into the directory; a stream that ends in the middle; a place that is none; a far directory.
  expect(code(lie(directory + 20, 4000))).toBe('unpacks-too-large');
  expect(code(lie(directory + 20, 3))).toBe('file-damaged');
  expect(code(lie(directory + 42, 7))).toBe('file-damaged');
  expect(code(lie(good.length - 22 + 16, 0xfffffff0))).toBe('file-damaged');
  expect(code(good.subarray(0, good.length - 30))).toBe('file-damaged');
  expect(code(new Uint8Array(10))).toBe('file-damaged');
});
