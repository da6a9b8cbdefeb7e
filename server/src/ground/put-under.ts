import { PDFArray, PDFDict, PDFDocument, PDFName, PDFObjectCopier, type PDFRef } from '@cantoo/pdf-lib';
import type { Under } from '../store/laid-on.js';

/** Prepared grounds that were read, by their bytes: a typesetter sets many papers over one. */
const read = new WeakMap<Uint8Array, Promise<PDFDocument>>();

/**
 * Puts prepared grounds under the pages of a file, as artifacts, which readers for the blind pass over (ISO 14289-1, 7.1).
 * Tags, title and what the file claims stay. A ground that several pages stand on is in the file once. Each lies at the upper
 * left corner of the paper, as it does on screen.
 *
 * @param beyond points that pages reach beyond the paper on each side, with bleed and marks.
 */
export async function putUnder(
  file: Uint8Array,
  grounds: readonly Uint8Array[],
  under: readonly Under[],
  beyond = 0,
): Promise<Uint8Array> {
  const document = await PDFDocument.load(file, { updateMetadata: false });
  const copiers = new Map<number, PDFObjectCopier>();
  const copied = new Map<string, PDFRef>();
  for (const [n, page] of document.getPages().entries()) {
    const wanted = under[n];
    const bytes = wanted && grounds[wanted.ground];
    if (!bytes) continue;
    let source = read.get(bytes);
    if (!source) read.set(bytes, (source = PDFDocument.load(bytes, { updateMetadata: false })));
    const from = (await source).getPages()[wanted.page];
    const form = from?.node.Resources()?.lookup(PDFName.of('XObject'), PDFDict).get(PDFName.of('Ground'));
    if (!from || !form) continue;
    const key = `${wanted.ground} ${wanted.page}`;
    let reference = copied.get(key);
    if (!reference) {
      const known = copiers.get(wanted.ground);
      const copier = known ?? PDFObjectCopier.for((await source).context, document.context);
      copiers.set(wanted.ground, copier);
      copied.set(key, (reference = copier.copy(form) as PDFRef));
    }
    const { node } = page;
    const resources = node.Resources() ?? document.context.obj({});
    const forms = resources.lookupMaybe(PDFName.of('XObject'), PDFDict) ?? document.context.obj({});
    forms.set(PDFName.of('ScriptumGround'), reference);
    resources.set(PDFName.of('XObject'), forms);
    node.set(PDFName.of('Resources'), resources);
    const drawn = document.context.register(
      document.context.stream(
        `/Artifact BMC q 1 0 0 1 ${beyond.toFixed(3)} ${(page.getHeight() - beyond - from.getHeight()).toFixed(3)} cm /ScriptumGround Do Q EMC`,
      ),
    );
    const contents = node.get(PDFName.of('Contents'));
    const rest =
      contents === undefined
        ? []
        : node.Contents() instanceof PDFArray
          ? (node.Contents() as PDFArray).asArray()
          : [contents];
    node.set(PDFName.of('Contents'), document.context.obj([drawn, ...rest]));
  }
  return document.save({ useObjectStreams: true, addDefaultPage: false });
}

const weights = new WeakMap<Uint8Array, Map<number, Promise<number>>>();

/** About how many bytes longer a file becomes by what is put under its pages. */
export async function weightUnder(grounds: readonly Uint8Array[], under: readonly Under[]): Promise<number> {
  const wanted = new Map(under.flatMap((one) => (one ? [[`${one.ground} ${one.page}`, one] as const] : [])));
  let sum = 0;
  for (const { ground, page } of wanted.values()) {
    const bytes = grounds[ground];
    if (!bytes) continue;
    const known = weights.get(bytes) ?? new Map<number, Promise<number>>();
    weights.set(bytes, known);
    let weight = known.get(page);
    if (!weight) known.set(page, (weight = weigh(bytes, page)));
    sum += await weight;
  }
  return sum;
}

async function weigh(ground: Uint8Array, page: number): Promise<number> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.addPage([72, 72]);
  const empty = await document.save();
  return (await putUnder(empty, [ground], [{ ground: 0, page }])).length - empty.length;
}
