import { Table, TableCell, TableHeader, TableRow } from '@tiptap/extension-table';
import { TableLines } from '@scriptum/core/text';

/** Cells hold what a text holds, but no other table. */
const CELL = '(paragraph|heading|bulletList|orderedList|picture|horizontalRule|signOff)+';

/** A table whose cells are written by hand. */
export const FREE_TABLE = [
  Table.extend({
    addAttributes() {
      return {
        ...this.parent?.(),
        lines: {
          default: 'rows',
          parseHTML: (element: HTMLElement) =>
            TableLines.safeParse(element.getAttribute('data-lines')).data ?? 'rows',
          renderHTML: ({ lines }: Record<string, unknown>) => ({ 'data-lines': lines }),
        },
      };
    },
  }).configure({ resizable: false, allowTableNodeSelection: true }),
  TableRow,
  TableHeader.extend({ content: CELL }),
  TableCell.extend({ content: CELL }),
];
