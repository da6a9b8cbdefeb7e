import { Node } from '@tiptap/core';
import type { SignOff } from '@scriptum/core/template';

/** Tells each sign-off of a text who signs there, and when to look again. */
export interface SignOffFaces {
  /** Null for one that the letterhead no longer has. */
  signOffOf(signOffId: string): SignOff | null;
  onChange(listener: () => void): () => void;
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    signOff: { insertSignOff: (signOffId: string) => ReturnType };
  }
}

/** Where somebody signs, as the school's letterhead says. */
export const SignOffNode = Node.create<{ faces: SignOffFaces | null }>({
  name: 'signOff',
  group: 'block',
  atom: true,
  draggable: true,
  selectable: true,
  addOptions: () => ({ faces: null }),
  addAttributes: () => ({
    signOffId: { default: '', parseHTML: (element) => element.getAttribute('data-sign-off') ?? '' },
  }),
  parseHTML: () => [{ tag: 'div[data-sign-off]' }],
  renderHTML: ({ node }) => ['div', { 'data-sign-off': node.attrs['signOffId'] as string }],
  addNodeView() {
    const { faces } = this.options;
    return ({ node }) => {
      const dom = document.createElement('div');
      dom.className = 'sign-off';
      dom.setAttribute('data-sign-off', String(node.attrs['signOffId']));
      dom.setAttribute('role', 'group');
      const show = (): void => {
        const one = faces?.signOffOf(String(node.attrs['signOffId'])) ?? null;
        dom.setAttribute('aria-label', one ? `Sign-off: ${one.name}` : 'Sign-off that is gone');
        dom.classList.toggle('unmatched', one === null);
        dom.replaceChildren(
          ...(one ? faceOf(one) : [line('p', 'This sign-off is no longer in the letterhead')]),
        );
      };
      show();
      const stop = faces?.onChange(show);
      return { dom, destroy: () => stop?.(), ignoreMutation: () => true };
    };
  },
  addCommands() {
    return {
      insertSignOff:
        (signOffId) =>
        ({ commands }) =>
          commands.insertContent({ type: this.name, attrs: { signOffId } }),
    };
  },
});

function faceOf({ name, role, picture, family }: SignOff): HTMLElement[] {
  const signature = picture ? document.createElement('img') : line('p', name);
  if (signature instanceof HTMLImageElement && picture) {
    signature.src = `/api/letterhead/pictures/${picture.asset}`;
    signature.alt = `Signature: ${name}`;
    signature.style.height = `${(picture.height * 96) / 25.4}px`;
  } else {
    signature.className = 'hand';
    signature.style.fontFamily = `'${family}', cursive`;
  }
  const small = line('p', role);
  small.className = 'role';
  return [signature, line('p', name), ...(role ? [small] : [])];
}

function line(tag: 'p', text: string): HTMLElement {
  const element = document.createElement(tag);
  element.textContent = text;
  return element;
}
