import { Editor } from '@tiptap/core';
import { StarterKit } from '@tiptap/starter-kit';
import { partAtCaret, partsChanged, TextParts } from './text-parts';

const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
const list = (...texts: string[]) => ({
  type: 'bulletList',
  content: texts.map((text) => ({ type: 'listItem', content: [paragraph(text)] })),
});
const editorWith = (...content: object[]): Editor =>
  new Editor({
    element: document.createElement('div'),
    injectCSS: false,
    content: { type: 'doc', content },
    extensions: [StarterKit, TextParts],
  });
/** Types of the blocks with the parts that they belong to. */
function partsIn(editor: Editor): string[] {
  const found: string[] = [];
  editor.state.doc.descendants((node) => {
    if (node.attrs['part']) found.push(`${node.type.name} ${node.attrs['part']} ${node.textContent}`);
  });
  return found;
}

test('the block at the caret takes a part, and gives it up again; undo knows of it', () => {
  const editor = editorWith(paragraph('One'), paragraph('Two'));
  editor.commands.setTextSelection(7);
  editor.commands.setPart('p1');
  expect(partsIn(editor)).toEqual(['paragraph p1 Two']);
  expect(partAtCaret(editor.state)).toBe('p1');
  editor.commands.setTextSelection(2);
  expect(partAtCaret(editor.state)).toBeNull();
  editor.commands.undo();
  expect(partsIn(editor)).toEqual([]);
  editor.destroy();
});

test('a selection of several blocks is one part; an item of a list is one by itself, a list as a whole where all is selected', () => {
  const editor = editorWith(paragraph('One'), list('a', 'b'), paragraph('Two'));
  editor.commands.selectAll();
  editor.commands.setPart('p1');
  expect(partsIn(editor)).toEqual(['paragraph p1 One', 'bulletList p1 ab', 'paragraph p1 Two']);
  editor.commands.setPart(null);
  editor.commands.setTextSelection(9);
  editor.commands.setPart('p2');
  expect(partsIn(editor)).toEqual(['paragraph p2 a']);
  editor.destroy();
});

test('what the picked learner does not get is dimmed, and comes back with the next one', () => {
  const editor = editorWith({ ...paragraph('One'), attrs: { part: 'p1' } }, paragraph('Two'));
  const block = (): HTMLElement => editor.view.dom.querySelector<HTMLElement>('.some-papers')!;
  expect(block().className).toBe('some-papers');
  editor.view.dispatch(partsChanged(editor.state, () => false));
  expect(block().className).toBe('some-papers away');
  expect(block().textContent).toBe('One');
  editor.view.dispatch(partsChanged(editor.state, () => true));
  expect(block().className).toBe('some-papers');
  expect(editor.can().undo()).toBe(false);
  editor.destroy();
});

test('a part is copied with its block', () => {
  const editor = editorWith({ ...paragraph('One'), attrs: { part: 'p1' } });
  const other = editorWith({ type: 'paragraph' });
  other.commands.setContent(editor.getHTML());
  expect(partsIn(other)).toEqual(['paragraph p1 One']);
  editor.destroy();
  other.destroy();
});
