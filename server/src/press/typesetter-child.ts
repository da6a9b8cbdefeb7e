import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { NodeCompiler, type NodeTypstDocument } from '@myriaddreamin/typst-ts-node-compiler';
import { drawnValues } from '@scriptum/core/page';
import { serveTasks } from '../process/child.js';
import { fontFolders } from './fonts.js';
import { slimSvg } from './slim-svg.js';
import { splitPages } from './split-pages.js';
import type { BlockPlace, BoxFit, Measured, TypesetAnswer, TypesetTask } from './typeset-task.js';

/** A folder that is not there: all that a program reads is given from memory, and nothing can be read from a disk. */
const workspace = path.join(tmpdir(), `scriptum-typesetter-${randomUUID()}`);
const compiler = NodeCompiler.create({ workspace, fontArgs: [{ fontPaths: fontFolders() }] });
let made = 0;

/** Sets a document, and says in its file what of its pages is the paper. */
async function typeset(task: TypesetTask, parts: readonly unknown[]): Promise<TypesetAnswer> {
  const answer = set(task, parts);
  if (!('bytes' in answer)) return answer;
  let { bytes } = answer;
  // Most papers need neither, and a typesetter is to be there at once.
  if (task.beyond) {
    const { withPageBoxes } = await import('./page-boxes.js');
    bytes = await withPageBoxes(bytes, task.beyond);
  }
  let size = bytes.length;
  if (task.under?.some((one) => one !== null)) {
    const { weightUnder } = await import('../ground/put-under.js');
    size += await weightUnder(parts.slice(1) as Uint8Array[], task.under);
  }
  return size > task.most ? { ok: false, tooLong: size } : { ...answer, bytes, size };
}

function set(task: TypesetTask, parts: readonly unknown[]): TypesetAnswer {
  const [program, ...pictures] = parts as [{ source: string; texts: string }, ...Uint8Array[]];
  const shared = pictures.length - task.own.length;
  pictures.forEach((bytes, n) => {
    const place = n < shared ? ['assets', String(n)] : ['own', task.own[n - shared]!];
    compiler.mapShadow(path.join(workspace, ...place), Buffer.from(bytes));
  });
  try {
    return task.all ? { ok: true, measured: measure(task, program, task.all) } : compile(task, program);
  } finally {
    // Nothing of this document is there for the next, which may be another school's.
    compiler.resetShadow();
    if (++made % 20 === 0) compiler.evictCache(10);
  }
}

function compile(task: TypesetTask, program: { source: string; texts: string }): TypesetAnswer {
  const values = task.draws ? drawnValues(task.values) : task.values;
  const inputs = { texts: program.texts, values, ...(task.form === 'svg' ? { marks: 'yes' } : {}) };
  const result = compiler.compile({ mainFileContent: program.source, inputs });
  const document = result.result;
  if (!document) {
    const [first] = result.takeError()?.shortDiagnostics ?? [];
    return { ok: false, reason: sentence(first) };
  }
  const pages = document.numOfPages;
  if (task.form === 'svg') {
    const svg = slimSvg(compiler.plainSvg(document));
    return svg.length > task.most
      ? { ok: false, tooLong: svg.length }
      : { ok: true, proof: splitPages(svg), blocks: blockPlaces(document), fits: boxFits(document, task) };
  }
  const bytes = written(document, task);
  return bytes.length > task.most
    ? { ok: false, tooLong: bytes.length }
    : { ok: true, pages, bytes, size: bytes.length, fits: boxFits(document, task) };
}

/** What papers come to, for each of some values. */
function measure(
  task: TypesetTask,
  { source, texts }: { source: string; texts: string },
  all: readonly string[],
): Measured[] {
  return all.map((given) => {
    const values = task.draws ? drawnValues(given) : given;
    const result = compiler.compile({ mainFileContent: source, inputs: { texts, values, marks: 'yes' } });
    const document = result.result;
    if (document) return { pages: document.numOfPages, fits: boxFits(document, task), reason: null };
    return { pages: 0, fits: [], reason: sentence(result.takeError()?.shortDiagnostics[0]) };
  });
}

/** Where the blocks of the text begin, as the program has marked them. */
function blockPlaces(document: NodeTypstDocument): BlockPlace[] {
  const marks = compiler.query(document, { selector: '<mark>', field: 'value' }) as [
    number,
    number,
    number,
  ][];
  return marks.map(([block, page, y]) => ({ block, page: page - 1, y }));
}

/** How the texts of boxes fit, as the program has told it. */
const boxFits = (document: NodeTypstDocument, { boxes }: TypesetTask): BoxFit[] =>
  boxes ? (compiler.query(document, { selector: '<fit>', field: 'value' }) as BoxFit[]) : [];

/** The file, tagged in any case. Where something in the paper is against its standard it is written without one. */
function written(document: NodeTypstDocument, { standard, timestamp }: TypesetTask): Buffer {
  const options = { creationTimestamp: timestamp };
  if (standard === null) return compiler.pdf(document, options);
  try {
    return compiler.pdf(document, { ...options, pdfStandard: standard });
  } catch {
    return compiler.pdf(document, options);
  }
}

function sentence(diagnostic: unknown): string {
  const message = (diagnostic as { message?: string } | undefined)?.message ?? 'unknown reason';
  return `The typesetter could not set this paper: ${message}.`;
}

serveTasks(typeset, { nice: Number(process.argv[2] ?? 0), collectEvery: 100 });
