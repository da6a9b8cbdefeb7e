import type { MarkingKey, Question } from '../column/index.js';
import type { Form, FormItem, Mark, MarkedItem } from './form.js';
import { columnIdsOf } from './given.js';
import { cellsOf, type Between } from './pages.js';

const KINDS: ReadonlySet<string> = new Set<MarkedItem['kind']>(['short', 'number', 'one', 'several']);

/** True for questions that can have a right answer. */
export const canBeMarked = (item: FormItem): item is MarkedItem => KINDS.has(item.kind);

type Marked = MarkedItem & { readonly mark: Mark };

/** The questions of a form that are marked, in their order. */
export const marksOf = ({ items }: Pick<Form, 'items'>): Marked[] =>
  items.filter((item): item is Marked => canBeMarked(item) && item.mark !== undefined);

/** A form as it is given to whoever answers: without what is right. */
export function formForAnswering(form: Form): Form {
  return {
    ...form,
    items: form.items.map((item) => {
      if (!canBeMarked(item)) return item;
      const { mark: _, ...rest } = item;
      return rest;
    }),
  };
}

/**
 * The marking key of a form that is published: its questions by their identities in the form. What people changed in the key since stays:
 * other spellings that they took, what they refused, remarks, and points that the form did not change itself.
 *
 * @param before the form as it was published the last time; null where it never was.
 * @param known the key that the roll has of it.
 * @returns null where nothing is marked and there is none.
 */
export function keyOfForm(
  form: Form,
  { before, known, between }: { before: Form | null; known: MarkingKey | null; between?: Between },
): MarkingKey | null {
  const questions = questionsOf(form, between);
  if (questions.length === 0 && !known) return null;
  const earlier = before ? questionsOf(before, between) : [];
  const ofForm = new Set([...form.items, ...(before?.items ?? [])].map(({ id }) => id));
  const merged = questions.map((question): Question => {
    const now = known?.questions.find((one) => isSame(one, question));
    if (!now) return question;
    const last = earlier.find(({ id }) => id === question.id);
    const { columnId, mode } = question;
    return {
      ...now,
      columnId,
      mode: now.mode === 'hand' ? now.mode : mode,
      points: last?.points === question.points ? now.points : question.points,
      answers: mergedAnswers(question, now, last),
    };
  });
  const others =
    known?.questions.filter((one) => !ofForm.has(one.id) && !questions.some((own) => isSame(one, own))) ?? [];
  return { ...(known ?? EMPTY), questions: [...merged, ...others] };
}

/** People may have marked the column of a question before the form did. */
const isSame = (one: Question, own: Question): boolean => one.id === own.id || one.columnId === own.columnId;

/** The key that a form's questions go into: one that has any of them, or marks any of their columns, already. */
export function isKeyOfForm(key: MarkingKey, form: Form, before: Form | null): boolean {
  const ids = new Set([...form.items, ...(before?.items ?? [])].map(({ id }) => id));
  const columns = new Set(marksOf(form).flatMap(columnIdsOf));
  return key.questions.some(({ id, columnId }) => ids.has(id) || columns.has(columnId));
}

const EMPTY: MarkingKey = {
  kind: 'key',
  questions: [],
  give: 'points',
  blankIsWrong: true,
  rounding: { places: 1, mode: 'half up' },
};

/** What the form calls right, and what people called so since; what the form calls right no more goes. */
function mergedAnswers(question: Question, now: Question, last: Question | undefined): Question['answers'] {
  const texts = new Set(question.answers.map(({ text }) => text));
  const gone = new Set(last?.answers.map(({ text }) => text));
  return [
    ...question.answers.map((answer) => now.answers.find(({ text }) => text === answer.text) ?? answer),
    ...now.answers.filter(({ text }) => !texts.has(text) && !gone.has(text)),
  ].slice(0, 60);
}

function questionsOf(form: Form, between?: Between): Question[] {
  return marksOf(form).map((item): Question => {
    const [columnId] = columnIdsOf(item) as [string];
    const { points, right } = item.mark;
    // Texts of choices are compared as they stand: two may differ in a capital alone.
    const isChoice = item.kind === 'one' || item.kind === 'several';
    const textOf = (id: string): string =>
      cellsOf(item, { [columnId]: [id] }, form.languages[0]!, between)[columnId] ?? '';
    const texts = isChoice ? right.map(textOf) : right.map((text) => text.trim());
    return {
      id: item.id,
      columnId,
      points,
      mode: item.kind === 'number' ? 'number' : item.kind === 'several' ? 'several' : 'text',
      answers: [...new Set(texts)].filter(Boolean).map((text) => ({ text })),
      refused: [],
      tolerance: '0',
      scoring: 'all',
      capitals: isChoice,
      accents: isChoice,
      punctuation: isChoice,
      topic: '',
      rightRemark: '',
      wrongRemark: '',
    };
  });
}
