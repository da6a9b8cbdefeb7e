import { writeSheet } from '@scriptum/core/workbook';
import { ZipArchive } from 'archiver';
import { once } from 'node:events';
import { PassThrough } from 'node:stream';
import type { PackPaper, PlannedPack } from './plan-pack.js';

const TITLES = ['File', 'Learner', 'Paper', 'State', 'Pages', 'Pressed'];
const INDEX = 'Index.xlsx';

/**
 * An archive with the folders of the papers' file names, and a sheet that lists them.
 *
 * @param fileOf gives the bytes of a paper; null where there are none.
 * @param write takes the archive's bytes as they come.
 * @param goesOn false once it shall be left.
 */
export async function zipPack(
  { papers, title }: PlannedPack,
  {
    fileOf,
    write,
    done,
    goesOn,
  }: {
    fileOf: (paper: PackPaper) => Promise<Buffer | null>;
    write: (bytes: Buffer) => Promise<void>;
    done: (n: number) => void;
    goesOn: () => boolean;
  },
): Promise<void> {
  const zip = new ZipArchive({ zlib: { level: 1 } });
  const through = zip.pipe(new PassThrough());
  const failed = new Promise<never>((_, reject) => zip.on('error', reject));
  const written = (async () => {
    for await (const bytes of through) await write(bytes as Buffer);
  })();
  // Whoever waits hears of it; where nobody does any more it has been left.
  for (const one of [failed, written]) one.catch(() => undefined);
  const add = async (bytes: Buffer, name: string, date: Date): Promise<void> => {
    // One after the other, so that they do not fill the memory.
    const entry = once(zip, 'entry');
    zip.append(bytes, { name, date });
    await Promise.race([entry, failed, written.then(() => undefined)]);
  };
  try {
    const taken = new Set([INDEX.toLowerCase()]);
    const rows: { text: string; number?: number }[][] = [];
    for (const [n, paper] of papers.entries()) {
      if (!goesOn()) return;
      const bytes = await fileOf(paper);
      if (!bytes) continue;
      const name = free(paper.fileName, taken);
      await add(bytes, name, paper.pressedAt ? new Date(paper.pressedAt) : new Date());
      rows.push([
        { text: name },
        { text: paper.learner },
        { text: paper.letter },
        { text: paper.state },
        { text: String(paper.pages), number: paper.pages },
        { text: paper.pressedAt?.slice(0, 19).replace('T', ' ') ?? '' },
      ]);
      done(n + 1);
    }
    await add(Buffer.from(writeSheet('xlsx', title, TITLES, rows)), INDEX, new Date());
    await Promise.race([zip.finalize(), failed]);
    await Promise.race([written, failed]);
  } finally {
    zip.abort();
  }
}

/** Papers of different runs can share a name; both go in. */
function free(fileName: string, taken: Set<string>): string {
  let name = fileName;
  for (let n = 2; taken.has(name.toLowerCase()); n++) name = fileName.replace(/\.pdf$/, ` (${n}).pdf`);
  taken.add(name.toLowerCase());
  return name;
}
