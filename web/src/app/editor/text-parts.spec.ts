import { Editor } from '@tiptap/core';
import { StarterKit } from '@tiptap/starter-kit';
import { partAtCaret, partsChanged, PartMark, TextParts } from './text-parts';

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
    extensions: [StarterKit, TextParts, PartMark],
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
  expect(partAtCaret(editor.state)).toEqual({ what: 'block', part: 'p1' });
  editor.commands.setTextSelection(2);
  expect(partAtCaret(editor.state)).toEqual({ what: 'block', part: null });
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

test('some words of a block are a part of their own; the caret in them finds it, and takes it away', () => {
  const editor = editorWith(paragraph('One. Two. Three.'));
  const words = (): string[] => {
    const found: string[] = [];
    editor.state.doc.descendants((node) => {
      const mark = node.marks.find(({ type }) => type.name === 'part');
      if (mark) found.push(`${mark.attrs['part']} ${node.text}`);
    });
    return found;
  };
  editor.commands.setTextSelection({ from: 6, to: 10 });
  expect(partAtCaret(editor.state)).toEqual({ what: 'words', part: null });
  editor.commands.setPart('p1');
  expect(words()).toEqual(['p1 Two.']);
  expect(partsIn(editor)).toEqual([]);
  editor.view.dispatch(partsChanged(editor.state, () => false));
  expect(editor.view.dom.querySelector('.some-words.away')!.textContent).toBe('Two.');
  editor.commands.setTextSelection(8);
  expect(partAtCaret(editor.state)).toEqual({ what: 'words', part: 'p1' });
  editor.commands.setPart(null);
  expect(words()).toEqual([]);
  // All of a block is the block.
  editor.commands.setTextSelection({ from: 1, to: 17 });
  editor.commands.setPart('p2');
  expect(partsIn(editor)).toEqual(['paragraph p2 One. Two. Three.']);
  editor.destroy();
});

test('what is typed behind the words of a part does not belong to it', () => {
  const editor = editorWith(paragraph('One. Two.'));
  editor.commands.setTextSelection({ from: 6, to: 10 });
  editor.commands.setPart('p1');
  editor.commands.setTextSelection(10);
  editor.view.dispatch(editor.state.tr.insertText(' More'));
  expect(editor.view.dom.querySelector('[data-words-part]')!.textContent).toBe('Two.');
  editor.destroy();
});
