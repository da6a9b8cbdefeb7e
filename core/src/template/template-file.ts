import {
  Alignment,
  type Block,
  type Inline,
  type LineText,
  type ListItem,
  PageBreak,
  ParagraphStyle,
  Picture,
  Rule,
  SignOffPlace,
  TextMark,
} from '../text/index.js';
import { z } from 'zod';
import { refuse, succeed, type Result } from '../table/index.js';
import { Field } from './field.js';
import { Letter } from './letter.js';
import { PageSetup, PAPER_SIZES, PaperSize } from './page-setup.js';
import { PAPER_FONTS } from './template-base.js';
import { collectFields, cutMustache, type FieldCollector } from './mustache.js';

const FileRun = z.union([
  z.string().transform((text) => ({ type: 'text' as const, text, marks: undefined })),
  z.object({ type: z.literal('text'), text: z.string(), marks: z.array(TextMark).optional() }),
  z.object({ type: z.literal('hardBreak') }),
]);
const runs = z.union([z.string(), z.array(FileRun)]).optional();
const align = z.object({ textAlign: Alignment.nullish() });

const FileParagraph = z.object({
  type: z.literal('paragraph'),
  attrs: align.extend({ style: ParagraphStyle.nullish() }).optional(),
  content: runs,
});
const FileHeading = z.object({
  type: z.literal('heading'),
  attrs: align.extend({ level: z.number().int().min(1).max(3) }),
  content: runs,
});
/** A table or a chart with all that it prints; its columns are found by their names. */
const FileFieldBlock = z.object({ type: z.literal('fieldBlock'), field: Field.omit({ id: true }) });
interface FileList {
  type: 'bulletList' | 'orderedList';
  attrs?: { start?: number | null | undefined } | undefined;
  content: (string | { type: 'listItem'; content: FileBlock[] })[];
}
type FileBlock =
  | z.infer<typeof FileParagraph>
  | z.infer<typeof FileHeading>
  | z.infer<typeof Rule>
  | z.infer<typeof PageBreak>
  | Picture
  | z.infer<typeof FileFieldBlock>
  | SignOffPlace
  | FileList;
const FileBlock: z.ZodType<FileBlock> = z.lazy(() =>
  z.union([FileParagraph, FileHeading, Rule, PageBreak, Picture, FileFieldBlock, SignOffPlace, FileList]),
) as z.ZodType<FileBlock>;
const FileList: z.ZodType<FileList> = z.lazy(() =>
  z.object({
    type: z.enum(['bulletList', 'orderedList']),
    attrs: z.object({ start: z.number().int().min(0).nullish() }).optional(),
    content: z.array(
      z.union([z.string(), z.object({ type: z.literal('listItem'), content: z.array(FileBlock) })]),
    ),
  }),
) as z.ZodType<FileList>;

/** The template file as docs/template-file.md describes it. Fields are written `{{Title}}` in its texts. */
export const TemplateFile = z.object({
  scriptum: z.literal('letter'),
  version: z.literal(1),
  name: z.string().min(1).max(200),
  language: Letter.shape.language.default('en-GB'),
  page: z
    .object({ size: PaperSize, margins: PageSetup.shape.margins })
    .default({ size: 'A4', margins: { top: 25, right: 25, bottom: 25, left: 25 } }),
  font: z
    .object({
      family: z.enum(PAPER_FONTS).default('Source Serif 4'),
      size: z.number().min(6).max(36).default(11),
    })
    .default({ family: 'Source Serif 4', size: 11 }),
  headings: Letter.shape.headings,
  styles: Letter.shape.styles,
  signature: Letter.shape.signature,
  letterhead: Letter.shape.letterhead,
  /** The pattern of file names, without `.pdf`. */
  fileName: z.string().max(500).optional(),
  body: z.array(FileBlock),
});
export type TemplateFile = z.infer<typeof TemplateFile>;

export interface ReadTemplate {
  readonly letter: Letter;
  /** The file's own pattern of file names, or null. */
  readonly fileName: string | null;
}

/**
 * Reads a template file. Fields come out unmatched.
 * Refuses with `template-json` where the text is no JSON, `template-shape` where it is not a template file.
 */
export function readTemplateFile(json: string, newId: () => string): Result<ReadTemplate> {
  let raw: unknown;
  try {
    raw = JSON.parse(json);
  } catch (error) {
    return refuse('template-json', { why: (error as Error).message });
  }
  const parsed = TemplateFile.safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    return refuse('template-shape', { place: issue.path.join('.'), why: issue.message });
  }
  const file = parsed.data;
  const collector = collectFields(newId);
  const content = file.body.map((block) => readBlock(block, collector));
  return succeed({
    letter: {
      kind: 'letter',
      name: file.name,
      language: file.language,
      page: { ...PAPER_SIZES[file.page.size], margins: file.page.margins },
      font: file.font,
      ...(file.headings ? { headings: file.headings } : {}),
      ...(file.styles ? { styles: file.styles } : {}),
      ...(file.signature ? { signature: file.signature } : {}),
      ...(file.letterhead ? { letterhead: file.letterhead } : {}),
      body: { type: 'doc', content },
      fields: collector.fields,
    },
    fileName: file.fileName ?? null,
  });
}

function readBlock(block: FileBlock, collector: FieldCollector): Block {
  switch (block.type) {
    case 'paragraph':
      return { ...block, content: readRuns(block.content, collector) };
    case 'heading':
      return { ...block, content: readRuns(block.content, collector) };
    case 'fieldBlock':
      return { type: 'fieldBlock', attrs: { fieldId: collector.added(block.field).id } };
    case 'bulletList':
    case 'orderedList':
      return { ...block, content: block.content.map((item) => readItem(item, collector)) };
    default:
      return block;
  }
}

function readItem(item: FileList['content'][number], collector: FieldCollector): ListItem {
  const blocks = typeof item === 'string' ? [{ type: 'paragraph' as const, content: item }] : item.content;
  return { type: 'listItem', content: blocks.map((block) => readBlock(block, collector)) };
}

function readRuns(content: z.infer<typeof runs>, collector: FieldCollector): Inline[] {
  const list = typeof content === 'string' ? [{ type: 'text' as const, text: content }] : (content ?? []);
  return list.flatMap((run): Inline[] =>
    run.type === 'hardBreak'
      ? [run]
      : cutMustache(run.text, collector, 'marks' in run ? run.marks : undefined),
  );
}

/** Reads a one-line pattern in mustache form, such as a file name or subject. */
export function readLine(
  text: string,
  newId: () => string,
): { fields: FieldCollector['fields']; line: LineText } {
  const collector = collectFields(newId);
  const line = cutMustache(text.replace(/\s*\n\s*/g, ' '), collector);
  return { fields: collector.fields, line };
}
