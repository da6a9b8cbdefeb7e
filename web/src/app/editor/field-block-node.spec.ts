import { Editor } from '@tiptap/core';
import { StarterKit } from '@tiptap/starter-kit';
import { cohortOf } from '@scriptum/core/fill';
import type { Field, TableFilling } from '@scriptum/core/template';
import { ChipSource } from './chip-source';
import { FieldBlockNode } from './field-block-node';

const columns = [{ id: 'm', title: 'Mark', type: 'number' as const }];
const entries = ['5', '', '7', '9'].map((m, position) => ({ id: `e${position}`, position, values: { m } }));
const mark = { kind: 'column' as const, columnId: 'm', name: 'Mark' };
const table: TableFilling = {
  columns: [
    { id: 'a', title: '', look: { kind: 'strong' }, width: 'auto' },
    { id: 'b', title: 'Mark', look: { kind: 'plain' }, width: 'auto' },
    { id: 'c', title: 'Bar', look: { kind: 'bar', most: 10, mean: true }, width: 'auto' },
  ],
  rows: {
    kind: 'each',
    rows: [{ id: 'r', cells: [{ kind: 'text', text: '<b>English</b>' }, mark, mark], strong: true }],
  },
  within: [],
  blankRows: 'stand',
};
const fields: Field[] = [
  { id: 't', name: 'Marks', columnId: null, table },
  {
    id: 'p',
    name: 'Place',
    columnId: null,
    chart: { kind: 'place', columnId: 'm', name: 'Mark', within: [], axis: 'Mark' },
  },
];
const context = { columns, language: 'en', day: '2026-11-26', cohort: cohortOf({ columns, entries }) };
const opened = jest.fn();
function editorWith(chips: ChipSource, content: object[]): Editor {
  return new Editor({
    element: document.createElement('div'),
    injectCSS: false,
    content: { type: 'doc', content },
    extensions: [
      StarterKit.configure({ trailingNode: false }),
      FieldBlockNode.configure({ faces: chips, open: opened }),
    ],
  });
}
const block = (fieldId: string) => ({ type: 'fieldBlock', attrs: { fieldId } });
const blocks = (editor: Editor): HTMLElement[] => [
  ...editor.view.dom.querySelectorAll<HTMLElement>('.field-block'),
];

test('a table and a chart show the picked learner, and follow to the next', () => {
  const chips = new ChipSource();
  chips.set(fields, { ...context, entry: entries[0] });
  const editor = editorWith(chips, [block('t'), block('p'), block('gone')]);
  const [marks, place, gone] = blocks(editor);
  const cells = [...marks!.querySelectorAll('tbody td')];
  expect(cells.map((cell) => cell.textContent)).toEqual(['<b>English</b>', '5', '']);
  // A column without a head has no blank one for a screen reader.
  expect([...marks!.querySelectorAll('th')].map((cell) => cell.textContent)).toEqual(['Mark', 'Bar']);
  expect(marks!.querySelector('tr.strong')).not.toBeNull();
  expect(marks!.querySelector('[role=img]')!.getAttribute('aria-label')).toBe('Bar: 5 | 7');
  expect(marks!.querySelector<HTMLElement>('.bar-own')!.style.width).toBe('50%');
  expect(place!.querySelector('svg')!.getAttribute('aria-label')).toMatch(/^Mark\. Own mark 5\. Learners /);
  expect(gone!.querySelector('.unmatched')).not.toBeNull();
  chips.set(fields, { ...context, entry: entries[1] });
  expect(marks!.textContent).toBe('Marks: nothing to print for this learner');
  // Where nothing is other than before, nothing is drawn anew.
  const kept = marks!.firstChild;
  chips.set(fields, { ...context, entry: entries[1] });
  expect(marks!.firstChild).toBe(kept);
  editor.destroy();
});

test('a block goes behind the outermost block at the caret, or in the place of a blank paragraph', () => {
  const chips = new ChipSource();
  chips.set(fields, { ...context, entry: entries[0] });
  const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
  const list = {
    type: 'bulletList',
    content: ['One', 'Two'].map((text) => ({ type: 'listItem', content: [paragraph(text)] })),
  };
  const editor = editorWith(chips, [list, paragraph('End'), { type: 'paragraph' }]);
  editor.commands.setTextSelection(4);
  editor.commands.insertFieldBlock('t');
  const types = (): string[] => (editor.getJSON().content ?? []).map(({ type }) => type!);
  expect(types()).toEqual(['bulletList', 'fieldBlock', 'paragraph', 'paragraph']);
  expect(editor.isActive('fieldBlock')).toBe(true);
  editor.commands.setTextSelection(editor.state.doc.content.size - 1);
  editor.commands.insertFieldBlock('p');
  expect(types()).toEqual(['bulletList', 'fieldBlock', 'paragraph', 'fieldBlock']);
  editor.destroy();
});

test('Enter on a selected block asks for its sentences', () => {
  const chips = new ChipSource();
  const editor = editorWith(chips, [block('t'), { type: 'paragraph' }]);
  editor.commands.setNodeSelection(0);
  editor.view.dom.dispatchEvent(
    new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }),
  );
  expect(opened).toHaveBeenCalledWith('t');
  editor.destroy();
});
