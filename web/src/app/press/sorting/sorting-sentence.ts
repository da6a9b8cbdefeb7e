import type { Condition } from '@scriptum/core/condition';
import type { SortingOutcome, SortingRule } from '@scriptum/core/template';
import {
  addPart,
  changePart,
  flatOf,
  flatPieces,
  newTest,
  type ConditionSurroundings,
} from '../../editor/condition-sentence';
import type { SentenceChange, SentenceOption, SentencePiece } from '../../ui/sentence/sentence-piece';

/** What a rule's sentence is made for. */
export interface RuleSurroundings extends ConditionSurroundings {
  /** What can be given, in its order; those that are switched off too. */
  readonly templates: readonly { readonly id: string; readonly name: string; readonly off: boolean }[];
  /** Cover notes that go where a rule names them. */
  readonly notes: readonly { readonly id: string; readonly name: string }[];
}

/** Taken for a paper: it goes out of the rule. */
const OUT = 'out';

const KINDS: readonly SentenceOption[] = [
  { value: 'gives', label: 'they get', hint: 'and nothing of the rules below' },
  { value: 'also', label: 'they also get', hint: 'beside what other rules give' },
  { value: 'out', label: 'they are left out', hint: 'no paper for them, and why' },
];

/** A rule as a sentence: `If Level is gold, they get Gold certificate.` */
export function ruleSentence(
  { if: condition, then }: SortingRule,
  around: RuleSurroundings,
): SentencePiece[] {
  const everyone = then.kind === 'also' ? 'Everyone' : 'Everyone else';
  const who: SentencePiece = {
    id: 'who',
    label: 'who it is for',
    text: condition === null ? everyone : 'If',
    value: condition === null ? 'all' : 'if',
    options: [
      { value: 'if', label: 'If …', hint: 'those for whom something holds' },
      { value: 'all', label: everyone },
    ],
  };
  const flat = condition && flatOf(condition);
  const tests: SentencePiece[] = flat
    ? [' ', ...flatPieces(flat, around), ' ', addPart(flat), ', ']
    : condition
      ? [' a condition of several kinds holds, ']
      : [' '];
  return [who, ...tests, ...outcomePieces(then, condition === null, around), '.'];
}

function outcomePieces(then: SortingOutcome, everyone: boolean, around: RuleSurroundings): SentencePiece[] {
  const said = KINDS.find(({ value }) => value === then.kind)!.label;
  const kind: SentencePiece = {
    id: 'kind',
    label: 'what becomes of them',
    // One sentence has a subject of its own.
    text: everyone ? said.replace('they are', 'is').replace('they ', '').replace('get', 'gets') : said,
    value: then.kind,
    options: KINDS,
  };
  if (then.kind === 'out')
    return [
      kind,
      ', because ',
      {
        id: 'why',
        label: 'why they are left out',
        text: then.why || 'why?',
        value: then.why,
        options: [],
        typed: 'This reason',
        ...(then.why ? {} : { look: 'missing' as const }),
      },
    ];
  const names = new Map(around.templates.map((one) => [one.id, one]));
  const left = around.templates
    .filter(({ id }) => !then.templates.includes(id))
    .map(({ id, name, off }): SentenceOption => ({
      value: id,
      label: name,
      ...(off ? { hint: 'switched off' } : {}),
    }));
  const given = then.templates.flatMap((id, n): SentencePiece[] => {
    const one = names.get(id);
    const text = one ? (one.off ? `${one.name} (switched off)` : one.name) : 'what was deleted';
    return [
      n === 0 ? '' : n === then.templates.length - 1 ? ' and ' : ', ',
      {
        id: `paper ${n}`,
        label: 'the paper',
        text,
        value: id,
        options: [
          ...(one ? [{ value: id, label: one.name }] : []),
          ...left,
          { value: OUT, label: 'Take this out' },
        ],
        ...(one && !one.off ? {} : { look: 'missing' as const }),
      },
    ];
  });
  const more: SentencePiece[] =
    left.length === 0 && then.templates.length > 0
      ? []
      : then.templates.length === 0
        ? [
            {
              id: 'more',
              label: 'the paper',
              text: 'choose a paper',
              value: '',
              options: left,
              look: 'missing',
            },
          ]
        : [' ', { id: 'more', label: 'another paper', text: '+', value: '', options: left, look: 'add' }];
  return [
    kind,
    ' ',
    ...given.filter((piece) => piece !== ''),
    ...more,
    ...notePieces(then.notes ?? [], around),
  ];
}

/** The cover notes that go along beside those for everybody: `, with the note For gold`. */
function notePieces(notes: readonly string[], around: RuleSurroundings): SentencePiece[] {
  const left = around.notes
    .filter(({ id }) => !notes.includes(id))
    .map(({ id, name }): SentenceOption => ({ value: id, label: name }));
  const given = notes.flatMap((id, n): SentencePiece[] => {
    const name = around.notes.find((one) => one.id === id)?.name;
    return [
      n === 0 ? ', with the note ' : ' and ',
      {
        id: `cover ${n}`,
        label: 'the cover note',
        text: name ?? 'what goes by itself, or was deleted',
        value: id,
        options: [
          ...(name ? [{ value: id, label: name }] : []),
          ...left,
          { value: OUT, label: 'Take this out' },
        ],
        ...(name ? {} : { look: 'missing' as const }),
      },
    ];
  });
  return left.length === 0
    ? given
    : [
        ...given,
        ' ',
        {
          id: 'more-note',
          label: 'a cover note beside',
          text: '+ note',
          value: '',
          options: left,
          look: 'add',
        },
      ];
}

/** The rule with what was chosen in a part of its sentence. */
export function changeRule(
  rule: SortingRule,
  { id, value }: SentenceChange,
  around: RuleSurroundings,
): SortingRule {
  const { then } = rule;
  const [part = '', at = ''] = id.split(' ');
  switch (part) {
    case 'who': {
      const first = around.columns[0];
      if (value === 'all') return { ...rule, if: null };
      return { ...rule, if: rule.if ?? (first ? newTest(first.id) : { papers: 'new' }) };
    }
    case 'kind': {
      const given = then.kind === 'out' ? { templates: [] } : then;
      return {
        ...rule,
        then: value === 'out' ? { kind: 'out', why: '' } : { ...given, kind: value as 'gives' | 'also' },
      };
    }
    case 'why':
      return { ...rule, then: { kind: 'out', why: value } };
    case 'more':
      return then.kind === 'out'
        ? rule
        : { ...rule, then: { ...then, templates: [...then.templates, value] } };
    case 'more-note':
      return then.kind === 'out'
        ? rule
        : { ...rule, then: { ...then, notes: [...(then.notes ?? []), value] } };
    case 'cover': {
      if (then.kind === 'out') return rule;
      const notes = (then.notes ?? []).flatMap((one, k) =>
        k === Number(at) ? (value === OUT ? [] : [value]) : [one],
      );
      return { ...rule, then: { ...then, notes } };
    }
    case 'paper': {
      if (then.kind === 'out') return rule;
      const n = Number(at);
      const templates = then.templates.flatMap((one, k) =>
        k === n ? (value === OUT ? [] : [value]) : [one],
      );
      return { ...rule, then: { ...then, templates } };
    }
    default: {
      const condition: Condition | null = changePart(rule.if, { id, value }, around);
      return { ...rule, if: condition };
    }
  }
}
