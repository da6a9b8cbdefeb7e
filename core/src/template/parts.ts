import {
  fieldsUsed,
  type FlowText,
  type LineText,
  isBlank,
  partsUsed,
  type Picture,
  picturesOf,
  withPictures,
} from '../text/index.js';
import type { TextPart } from './field.js';
import type { Placed, PlacedBox, PlacedPage } from './placed.js';
import type { Template } from './template.js';

/** Each text of a template, in the order in which it is read. */
export const textsOf = (template: Template): readonly FlowText[] => [
  ...(template.kind === 'letter' ? [template.body] : []),
  ...boxesOf(template).flatMap((box) => (box.kind === 'text' ? [box.body] : [])),
];

/** The boxes of a template, in their order. */
export const boxesOf = (template: Template): readonly PlacedBox[] =>
  (template.kind === 'placed' ? template : template.behind)?.boxes ?? [];

/** The lines at the head and the foot of a template's pages. */
export const pageLinesOf = ({ head, foot }: Template): readonly LineText[] =>
  [head, foot].flatMap((line) => (line ? [line.left, line.right] : []));

/** What stands in a box as one line, a field of its own among them. */
function lineOfBox(box: PlacedBox): readonly LineText[] {
  if (box.kind === 'comb' || box.kind === 'code') return [box.line];
  return box.kind === 'ownPicture' ? [[{ type: 'field', attrs: { fieldId: box.fieldId } }]] : [];
}

/** Each line of a template that is no text of its own: at the head and the foot, and in boxes that take one line. */
export const linesOfTemplate = (template: Template): readonly LineText[] => [
  ...pageLinesOf(template),
  ...boxesOf(template).flatMap(lineOfBox),
];

/** Identities of the fields that stand in a template, each once. */
export const fieldsOf = (template: Template): string[] => [
  ...new Set([...textsOf(template), ...linesOfTemplate(template)].flatMap((text) => fieldsUsed(text))),
];

/** The parts that come and go which blocks or boxes of a template belong to. */
export function partsOf(template: Template): TextPart[] {
  const boxes = boxesOf(template).flatMap(({ part }) => part ?? []);
  const used = new Set([...boxes, ...textsOf(template).flatMap((text) => partsUsed(text))]);
  return (template.parts ?? []).filter(({ id }) => used.has(id));
}

const asPicture = (asset: string, alt: string, width: number): Picture => ({
  type: 'picture',
  attrs: { asset, width: Math.min(400, Math.max(2, width)), align: 'left', alt },
});

/** Every picture of a template. */
export const allPicturesOf = (template: Template): Picture[] => [
  ...textsOf(template).flatMap((text) => picturesOf(text)),
  ...pagesOf(template).flatMap(({ picture, ground }) =>
    [picture, ground].flatMap((one) => (one ? [asPicture(one.asset, '', 400)] : [])),
  ),
  ...boxesOf(template).flatMap((box) =>
    box.kind === 'picture' ? [asPicture(box.asset, box.alt, box.width)] : [],
  ),
];

const pagesOf = (template: Template): readonly PlacedPage[] =>
  (template.kind === 'placed' ? template : template.behind)?.pages ?? [];

/** True where a template would print nothing. */
export const isTemplateBlank = (template: Template): boolean =>
  (template.kind !== 'letter' || isBlank(template.body)) &&
  boxesOf(template).every((box) => box.kind === 'text' && isBlank(box.body)) &&
  pagesOf(template).every(({ picture, ground }) => !picture && !ground);

/** The template with another picture in each place; one that `assetOf` does not know stays. */
export function withTemplatePictures<T extends Template>(
  template: T,
  assetOf: (asset: string) => string | undefined,
): T {
  const one: Template = template;
  if (one.kind === 'placed') return { ...template, ...onPages(one, assetOf) };
  return {
    ...template,
    body: withPictures(one.body, assetOf),
    ...(one.behind ? { behind: { ...one.behind, ...onPages(one.behind, assetOf) } } : {}),
  };
}

function onPages(
  { pages, boxes }: Pick<Placed, 'pages' | 'boxes'>,
  assetOf: (asset: string) => string | undefined,
): Pick<Placed, 'pages' | 'boxes'> {
  const named = (asset: string): string => assetOf(asset) ?? asset;
  return {
    pages: pages.map((page) => ({
      ...page,
      ...(page.picture ? { picture: { asset: named(page.picture.asset) } } : {}),
      ...(page.ground ? { ground: { ...page.ground, asset: named(page.ground.asset) } } : {}),
    })),
    boxes: boxes.map((box): PlacedBox => {
      if (box.kind === 'text') return { ...box, body: withPictures(box.body, assetOf) };
      return box.kind === 'picture' ? { ...box, asset: named(box.asset) } : box;
    }),
  };
}
