import { Chosen, Entered } from '../ui/bound';
import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { Icon } from '../ui/icon';
import { NumberBox } from '../ui/number-box';
import type { ICONS } from '../ui/icons';
import type { Letterhead } from '@scriptum/core/template';
import { coloursWith } from './colours';
import { ContextBar } from './context-bar';
import type { Format, TextSide, Toggle } from './formatting';
import type { TextEditor } from './text-editor';

const SIZES = [
  '8pt',
  '9pt',
  '10pt',
  '10.5pt',
  '11pt',
  '12pt',
  '13pt',
  '14pt',
  '16pt',
  '18pt',
  '20pt',
  '24pt',
  '30pt',
  '36pt',
  '48pt',
];

interface Tool {
  readonly toggle: Toggle;
  readonly name: string;
  readonly icon: keyof typeof ICONS;
}

const MARKS: readonly Tool[] = [
  { toggle: 'bold', name: 'Bold', icon: 'lucideBold' },
  { toggle: 'italic', name: 'Italic', icon: 'lucideItalic' },
  { toggle: 'underline', name: 'Underline', icon: 'lucideUnderline' },
];
const LISTS: readonly Tool[] = [
  { toggle: 'bulletList', name: 'Bullet list', icon: 'lucideList' },
  { toggle: 'orderedList', name: 'Numbered list', icon: 'lucideListOrdered' },
];
const SIDES: readonly { side: TextSide; name: string; icon: keyof typeof ICONS }[] = [
  { side: 'left', name: 'Align left', icon: 'lucideAlignLeft' },
  { side: 'center', name: 'Centre', icon: 'lucideAlignCenter' },
  { side: 'right', name: 'Align right', icon: 'lucideAlignRight' },
  { side: 'justify', name: 'Justify', icon: 'lucideAlignJustify' },
];

/** The formatting of the text at the caret, or of the picture that is selected. */
@Component({
  selector: 'sc-toolbar',
  imports: [Chosen, ContextBar, Entered, Icon, NumberBox],
  templateUrl: './toolbar.html',
  host: {
    role: 'toolbar',
    'aria-label': 'Formatting',
    class: 'flex min-h-10 shrink-0 flex-wrap items-center gap-0.5 border-b border-rule bg-leaf px-2 py-1',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Toolbar {
  private readonly app = inject(ApplicationRef);
  readonly source = input.required<TextEditor>();
  /** Whether more than words can be put in. */
  readonly pictures = input(true);
  /** Whether that is more than pictures: what belongs on paper, such as lines, pages, footnotes, frames and tables. */
  readonly paper = input(true);
  /** The side that paragraphs keep to which do not say otherwise. */
  readonly side = input<TextSide>('left');
  /** Whether steps are taken back here; not where that is done for more than the text. */
  readonly steps = input(true);
  readonly picture = output<File>();

  /** The school's, where it has one. */
  readonly letterhead = input<Letterhead | null>(null);
  protected readonly colours = computed(() => coloursWith(this.letterhead()));
  protected readonly signOffs = computed(() => this.letterhead()?.signOffs ?? []);
  protected readonly kinds = [
    ['p', 'Text'],
    ['h1', 'Heading 1'],
    ['h2', 'Heading 2'],
    ['h3', 'Heading 3'],
    ['title', 'Title'],
    ['small', 'Small print'],
    ['quotation', 'Quotation'],
    ['signature', 'Signature'],
  ] as const;
  protected readonly sizes = SIZES;
  protected readonly groups = [MARKS, LISTS];
  protected readonly sides = SIDES;
  protected readonly state = computed(() => this.source().formatting());

  /** The caret stays in the text where a button is clicked, so that nothing is lost of what is typed right then. */
  protected keepFocus(event: Event): void {
    event.preventDefault();
  }

  protected do(format: Format): void {
    this.source().format(format);
  }

  /** True while the address of a new link is typed. */
  protected readonly linking = signal(false);

  protected put(select: EventTarget | null): void {
    const box = select as HTMLSelectElement;
    const what = box.value;
    box.value = '';
    if (what === 'link') this.startLink();
    else if (what === 'footnote') {
      this.do({ put: 'footnote' });
      this.focusNow('footnote-text');
    } else if (what === 'frame' || what === 'table') this.do({ put: what });
    else if (what) this.do({ signOff: what });
  }

  protected finish(format: Format): void {
    this.linking.set(false);
    this.do(format);
  }

  protected leaveLink(): void {
    this.linking.set(false);
    this.source().goBehind();
  }

  private startLink(): void {
    this.linking.set(true);
    this.focusNow('link-address');
  }

  /** The box is drawn at once, so that what is typed right then is all there. */
  private focusNow(id: string): void {
    this.app.tick();
    document.getElementById(id)?.focus();
  }

  protected setAlign(align: TextSide): void {
    if (!this.state()?.picture) this.do({ align });
    else if (align !== 'justify') this.do({ picture: { align } });
  }

  protected readonly text = String;

  protected choosePicture(target: EventTarget | null): void {
    const element = target as HTMLInputElement;
    const file = element.files?.[0];
    if (file) this.picture.emit(file);
    element.value = '';
  }
}
