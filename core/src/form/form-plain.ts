import type { Form, FormItem } from './form.js';
import { wordsIn } from './words-in.js';
import type { Words } from './words.js';

/** A form as people can read it beside another version of it: its questions with their answers, in its first language. */
export function formPlain({ title, intro, items, languages }: Form): string {
  const first = languages[0]!;
  const say = (words: Words | undefined): string => wordsIn(words, first, first);
  return [say(title), say(intro), ...items.map((item) => itemPlain(item, say))].filter(Boolean).join('\n\n');
}

function itemPlain(item: FormItem, say: (words: Words | undefined) => string): string {
  switch (item.kind) {
    case 'page':
      return ['—', say(item.title)].join(' ').trim();
    case 'section':
      return [say(item.title), say(item.words)].filter(Boolean).join('\n');
    case 'words':
      return say(item.words);
    case 'picture':
      return `[${say(item.alt)}]`;
    case 'hidden':
      return `${item.name}: ${item.initial ?? ''}`.trim();
    default: {
      const choices = 'choices' in item ? item.choices.map(({ label }) => `– ${say(label)}`) : [];
      const rows = item.kind === 'grid' ? item.rows.map(({ label }) => `· ${say(label)}`) : [];
      return [say(item.label), say(item.help), ...rows, ...choices].filter(Boolean).join('\n');
    }
  }
}
