import { isOneRoster, readOneRoster, type Bundle } from '../sources/index.js';
import { decodeText, readRecords, refuse, succeed, type LaidOut, type Result } from '../table/index.js';
import type { Archive } from './archive.js';

/** The files of an archive that a OneRoster bundle may be made of, or null where the archive is none. */
export function readBundle({ names, parts }: Archive): Result<Bundle> | null {
  if (!isOneRoster(names)) return null;
  // Without a prototype: a file may be called like something that every object has.
  const bundle = Object.create(null) as Record<string, { titles: string[]; rows: string[][] }>;
  for (const [name, content] of Object.entries(parts)) {
    if (!/\.csv$/i.test(name)) continue;
    const file = name.replace(/^.*\//, '').replace(/\.csv$/i, '');
    if (content.length === 0) continue;
    const decoded = decodeText(content);
    const records = decoded.ok ? readRecords(decoded.value.text, ',') : decoded;
    if (!records.ok) return refuse('in-file', { file: `${file}.csv`, problem: records.problem });
    const [titles = [], ...rows] = records.value.rows;
    bundle[file] = { titles, rows: rows.filter((row) => row.some((cell) => cell !== '')) };
  }
  return succeed(bundle);
}

/** The bundle as one sheet of learners. */
export function layOutBundle(bundle: Bundle, newId: () => string): Result<LaidOut> {
  const sheet = readOneRoster(bundle, newId);
  return sheet.ok ? succeed({ sheet: sheet.value, reading: {}, doubts: [] }) : sheet;
}
