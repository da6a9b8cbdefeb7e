import { mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { NodeCompiler } from '@myriaddreamin/typst-ts-node-compiler';
import { fontFolders } from './fonts.js';

/** A picture as a worker gets it; the bytes are shared between threads, not copied. */
export interface SharedAsset {
  readonly hash: string;
  readonly bytes: SharedArrayBuffer;
}

export interface TypesetTask {
  readonly form: 'pdf' | 'svg';
  readonly source: string;
  readonly texts: string;
  readonly values: string;
  readonly assets: readonly SharedAsset[];
  /** Seconds since 1970 to write into the PDF as its date. */
  readonly timestamp: number;
}

export type TypesetAnswer =
  | { readonly ok: true; readonly pages: number; readonly bytes: Uint8Array }
  | { readonly ok: true; readonly pages: number; readonly svg: string }
  | { readonly ok: false; readonly reason: string };

/** An empty folder; all files that a program reads are given from memory. */
const workspace = path.join(tmpdir(), 'scriptum-typesetter');
mkdirSync(workspace, { recursive: true });

const compiler = NodeCompiler.create({ workspace, fontArgs: [{ fontPaths: fontFolders() }] });
const mapped: string[] = [];
let made = 0;

export default function typeset(task: TypesetTask): TypesetAnswer {
  mapAssets(task.assets);
  const args = { mainFileContent: task.source, inputs: { texts: task.texts, values: task.values } };
  const result = compiler.compile(args);
  const document = result.result;
  if (!document) {
    const [first] = result.takeError()?.shortDiagnostics ?? [];
    return { ok: false, reason: sentence(first) };
  }
  try {
    const pages = document.numOfPages;
    if (task.form === 'svg') return { ok: true, pages, svg: compiler.plainSvg(document) };
    const bytes = new Uint8Array(compiler.pdf(document, { creationTimestamp: task.timestamp }));
    return { ok: true, pages, bytes };
  } finally {
    if (++made % 20 === 0) compiler.evictCache(10);
  }
}

function mapAssets(assets: readonly SharedAsset[]): void {
  assets.forEach(({ hash, bytes }, n) => {
    if (mapped[n] === hash) return;
    compiler.mapShadow(path.join(workspace, 'assets', String(n)), Buffer.from(new Uint8Array(bytes)));
    mapped[n] = hash;
  });
}

function sentence(diagnostic: unknown): string {
  const message = (diagnostic as { message?: string } | undefined)?.message ?? 'unknown reason';
  return `The typesetter could not set this paper: ${message}.`;
}
