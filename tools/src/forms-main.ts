import { NodeCompiler } from '@myriaddreamin/typst-ts-node-compiler';
import { fontFolders } from '@scriptum/server/press/fonts';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * Makes the forms that ship with Scriptum, and small pictures of them, from their sources in `tools/forms`. They are kept, since
 * they change as seldom as their sources.
 */
const root = fileURLToPath(new URL('../..', import.meta.url));
const sources = path.join(root, 'tools/forms');
const assets = path.join(root, 'web/src/assets/forms');
/** A fixed day, so that the same source gives the same file. */
const MADE = Date.UTC(2026, 0, 1) / 1000;
const compiler = NodeCompiler.create({ workspace: sources, fontArgs: [{ fontPaths: fontFolders() }] });

for (const name of ['consent', 'report-sheet']) {
  const compiled = compiler.compile({ mainFilePath: path.join(sources, `${name}.typ`) });
  if (!compiled.result) throw new Error(`${name}: ${JSON.stringify(compiled.takeError()?.shortDiagnostics)}`);
  const file = path.join(assets, `${name}.pdf`);
  writeFileSync(
    file,
    compiler.pdf(compiled.result, { pdfStandard: 'ua-1' as never, creationTimestamp: MADE }),
  );
  execFileSync('pdftoppm', ['-r', '36', '-png', '-singlefile', file, path.join(assets, name)]);
}
