import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

function withFile<T>(bytes: Uint8Array, work: (file: string) => T): T {
  const folder = mkdtempSync(path.join(tmpdir(), 'scriptum-pdf-'));
  try {
    const file = path.join(folder, 'paper.pdf');
    writeFileSync(file, bytes);
    return work(file);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The text that Poppler reads out of a PDF, without the marks that it puts around right-to-left text. */
export const pdfText = (bytes: Uint8Array): string =>
  withFile(bytes, (file) =>
    execFileSync('pdftotext', ['-enc', 'UTF-8', file, '-'], { encoding: 'utf8' }).replace(
      /[\u200e\u200f\u202a-\u202e\u2066-\u2069]/g,
      '',
    ),
  );

/** The lines of a PDF as they stand on the paper, with the gaps between columns, without blank ones. */
export const linesOfPdf = (bytes: Uint8Array): string[] =>
  withFile(bytes, (file) =>
    execFileSync('pdftotext', ['-enc', 'UTF-8', '-layout', file, '-'], { encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.trim() !== ''),
  );

/** What `pdfinfo` says, by key. */
export const pdfInfo = (bytes: Uint8Array): Record<string, string> =>
  withFile(bytes, (file) =>
    Object.fromEntries(
      execFileSync('pdfinfo', [file], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
        .split('\n')
        .map((line) => [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 1).trim()]),
    ),
  );

/** The names of the fonts in a PDF, as Poppler reads them. */
export const pdfFonts = (bytes: Uint8Array): string[] =>
  withFile(bytes, (file) =>
    execFileSync('pdffonts', [file], { encoding: 'utf8' })
      .split('\n')
      .slice(2)
      .flatMap((line) => line.split(' ')[0] || []),
  );

/** The boxes of a PDF's pages by their names, in points, as `qpdf` reads them (ISO 32000-1, 14.11.2). */
export const pageBoxes = (bytes: Uint8Array): Readonly<Record<string, readonly number[]>>[] =>
  withFile(bytes, (file) => {
    const json = execFileSync('qpdf', ['--json=2', '--json-key=qpdf', file], {
      encoding: 'utf8',
      maxBuffer: 64 * 1024 * 1024,
    });
    const [, objects] = (
      JSON.parse(json) as { qpdf: [unknown, Record<string, { value?: Record<string, unknown> }>] }
    ).qpdf;
    return Object.values(objects).flatMap(({ value }) =>
      value?.['/Type'] === '/Page'
        ? [
            Object.fromEntries(Object.entries(value).filter(([key]) => key.endsWith('Box'))) as Record<
              string,
              number[]
            >,
          ]
        : [],
    );
  });

/** Throws where `qpdf --check` finds a fault. */
export const qpdfCheck = (bytes: Uint8Array): string =>
  withFile(bytes, (file) => execFileSync('qpdf', ['--check', file], { encoding: 'utf8' }));

/** Where a word stands on the first page, in points from the upper left corner, as Poppler sees it. */
export function wordBox(bytes: Uint8Array, word: string): { x: number; y: number } | null {
  const html = withFile(bytes, (file) =>
    execFileSync('pdftotext', ['-bbox', '-f', '1', '-l', '1', file, '-'], { encoding: 'utf8' }),
  );
  const found = new RegExp(`<word xMin="([\\d.]+)" yMin="([\\d.]+)"[^>]*>${word}</word>`).exec(html);
  return found && { x: Number(found[1]), y: Number(found[2]) };
}

/** The fields of a form by their full names, with their values as `qpdf` writes them (ISO 32000-1, 12.7). */
export function qpdfFields(bytes: Uint8Array): Record<string, unknown> {
  const json = withFile(bytes, (file) =>
    execFileSync('qpdf', ['--json=2', '--json-key=acroform', file], { encoding: 'utf8' }),
  );
  const { acroform } = JSON.parse(json) as { acroform: { fields: { fullname: string; value: unknown }[] } };
  return Object.fromEntries(acroform.fields.map(({ fullname, value }) => [fullname, value]));
}
