import { Editor } from '@tiptap/core';
import { StarterKit } from '@tiptap/starter-kit';
import { ChipSource } from './chip-source';
import { FieldNode } from './field-node';
import { PictureNode } from './picture-node';

const columns = [{ id: 'c', title: 'First name' }];
const fields = [{ id: 'f', name: 'Name', columnId: 'c' }];
const entry = (c: string) => ({ id: 'e', position: 0, values: { c } });

function editorWith(
  chips: ChipSource,
  content: object = { type: 'doc', content: [{ type: 'paragraph' }] },
): Editor {
  return new Editor({
    element: document.createElement('div'),
    injectCSS: false,
    content,
    extensions: [
      StarterKit,
      PictureNode.configure({ urlOf: (asset) => `/pictures/${asset}` }),
      FieldNode.configure({ faces: chips }),
    ],
  });
}

test('a field is put in with the formatting at the caret, and shows the value in it', () => {
  const chips = new ChipSource();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('Zoë') });
  const editor = editorWith(chips);
  editor.chain().insertContent('Dear ').toggleBold().insertField('f').run();
  expect(editor.getJSON().content?.[0]?.content).toEqual([
    { type: 'text', text: 'Dear ' },
    { type: 'field', attrs: { fieldId: 'f' }, marks: [{ type: 'bold' }] },
  ]);
  const chip = (): HTMLElement => editor.view.dom.querySelector<HTMLElement>('.field')!;
  expect(chip().textContent).toBe('Zoë');
  expect(chip().closest('strong')).not.toBeNull();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('<b>محمد</b>') });
  expect(chip().textContent).toBe('<b>محمد</b>');
  expect(chip().children).toHaveLength(0);
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('') });
  expect(chip().className).toBe('field empty');
  chips.set([], { columns, language: 'en', day: '2026-11-26', entry: entry('x') });
  expect(chip().className).toBe('field unmatched');
  editor.destroy();
});

test('undo takes a field back', () => {
  const chips = new ChipSource();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('Zoë') });
  const editor = editorWith(chips);
  editor.commands.insertField('f');
  expect(editor.view.dom.querySelectorAll('.field')).toHaveLength(1);
  editor.commands.undo();
  expect(editor.view.dom.querySelectorAll('.field')).toHaveLength(0);
  editor.destroy();
});

test('fields and pictures survive copying as HTML', () => {
  const chips = new ChipSource();
  chips.set(fields, { columns, language: 'en', day: '2026-11-26', entry: entry('Zoë') });
  const picture = { type: 'picture', attrs: { asset: 'a1', width: 40, align: 'center', alt: 'Crest' } };
  const content = {
    type: 'doc',
    content: [picture, { type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
  };
  const editor = editorWith(chips, content);
  const html = editor.getHTML();
  expect(html).toContain('src="/pictures/a1"');
  editor.commands.setContent(html);
  expect(editor.getJSON().content?.slice(0, 2)).toEqual(content.content);
  editor.destroy();
});
