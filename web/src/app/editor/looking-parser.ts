import { DOMParser, type ParseOptions, type Schema, type Slice } from '@tiptap/pm/model';
import { wearLooks } from './pasted';

/** Reads what is pasted, once it has put on the styles that were told of it. */
class LookingParser extends DOMParser {
  override parseSlice(dom: Node, options?: ParseOptions): Slice {
    wearLooks(dom as ParentNode & Node);
    return super.parseSlice(dom, options);
  }
}

/** @param schemaOf asked when something is pasted first: an editor has its schema once it is made. */
export function lookingParser(schemaOf: () => Schema): DOMParser {
  let made: LookingParser | null = null;
  const parser = (): LookingParser =>
    (made ??= new LookingParser(schemaOf(), [...DOMParser.fromSchema(schemaOf()).rules]));
  return {
    parseSlice: (dom: Node, options?: ParseOptions) => parser().parseSlice(dom, options),
    parse: (dom: Node, options?: ParseOptions) => parser().parse(dom, options),
  } as DOMParser;
}
