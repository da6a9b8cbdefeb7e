import jsep from 'jsep';
import { saying, type Code, type Given, type Saying } from '../../sentences/index.js';
import { refuse, succeed, type Result } from '../../table/index.js';
import type { FormulaPart } from '../../column/index.js';
import { scientific, type Ratio } from '../../ratio/index.js';

/** Letters of a formula, columns and texts counted short. */
const FORMULA_MOST = 20_000;
/** Brackets, signs and calls in each other; a sum of many has one more for each. */
const DEPTH_MOST = 1_000;

/** A formula as a tree. */
export type Tree =
  | { readonly kind: 'number'; readonly value: Ratio }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'truth'; readonly truth: boolean }
  | { readonly kind: 'column'; readonly columnId: string }
  | { readonly kind: 'operation'; readonly sign: string; readonly operands: readonly Tree[] }
  | { readonly kind: 'call'; readonly name: string; readonly given: readonly Tree[] };

/**
 * The signs of OpenFormula (ODF 1.3 Part 4, 5.5), those that bind tighter with a higher number. A sign before a number binds
 * tightest there, so that -2^2 is 4, and ^ goes from left to right.
 */
const SIGNS: Readonly<Record<string, number>> = {
  '=': 1,
  '<>': 1,
  '<': 1,
  '<=': 1,
  '>': 1,
  '>=': 1,
  '&': 2,
  '+': 3,
  '-': 3,
  '*': 4,
  '/': 4,
  '^': 5,
};

jsep.removeAllBinaryOps();
jsep.removeAllUnaryOps();
jsep.removeAllLiterals();
for (const [sign, binding] of Object.entries(SIGNS)) jsep.addBinaryOp(sign, binding);
jsep.addUnaryOp('-');
jsep.addUnaryOp('+');
// A percent sign after a number or a bracket.
jsep.hooks.add('after-token', function percent(this: { index: number; expr: string }, env) {
  while (env.node && /^\s*%/.test(this.expr.slice(this.index))) {
    this.index += this.expr.slice(this.index).indexOf('%') + 1;
    env.node = { type: 'UnaryExpression', operator: '%', prefix: false, argument: env.node };
  }
});

/**
 * Parses a formula: numbers, `"texts"`, TRUE and FALSE, columns, the signs of OpenFormula and calls of functions with `;` or
 * `,` between what is given to them. Where a `;` stands, a comma between digits is a decimal comma. An `=` at the start may
 * stand or not.
 *
 * @returns the tree, or the refusal `formula-wrong`.
 */
export function parseFormula(parts: readonly FormulaPart[]): Result<Tree> {
  const texts: string[] = [];
  const columns: string[] = [];
  let source = '';
  for (const part of parts) {
    if ('columnId' in part) {
      // Spaces keep it apart from what stands beside it.
      source += ` $c${columns.push(part.columnId) - 1} `;
    } else source += part.text;
  }
  source = source
    .replace(/"((?:[^"]|"")*)"/g, (_, inner: string) => ` $t${texts.push(inner.replaceAll('""', '"')) - 1} `)
    .replace(/[×·]/g, '*')
    .replace(/÷/g, '/')
    .replace(/−/g, '-')
    .replace(/≤/g, '<=')
    .replace(/≥/g, '>=')
    .replace(/≠/g, '<>');
  source = decimalCommas(source)
    // A percentage; the sign after a column or a bracket is seen to while parsing.
    .replace(/(?<![\w$.])(\d+(?:\.\d+)?)\s*%/g, '($1/100)')
    .replace(/^\s*=/, '');
  if (source.length > FORMULA_MOST) return wrong('formula-long', { most: FORMULA_MOST });
  if (source.trim() === '') return wrong('formula-blank');
  const unknown = unknownColumn(source);
  if (unknown !== null) return wrong('formula-column', { title: unknown.slice(0, 80) });
  const stray = /["'`\\{}[\]!?|~#@:.](?!\d)/.exec(source.replace(/\.\d/g, ''));
  if (stray)
    return stray[0] === '"' ? wrong('formula-open-text') : wrong('formula-stray', { sign: stray[0] });
  try {
    return succeed(treeOf(jsep(source), texts, columns));
  } catch (error) {
    const why = error instanceof Unreadable ? error.why : saying('formula-unreadable');
    return refuse('formula-wrong', { why });
  }
}

const wrong = <C extends Code>(code: C, ...given: Given<C>): Result<never> =>
  refuse('formula-wrong', { why: saying(code, ...given) });

class Unreadable extends Error {
  constructor(readonly why: Saying) {
    super(why.code);
  }
}

function unreadable<C extends Code>(code: C, ...given: Given<C>): never {
  throw new Unreadable(saying(code, ...given));
}

function treeOf(
  node: jsep.Expression,
  texts: readonly string[],
  columns: readonly string[],
  depth = 0,
): Tree {
  if (depth > DEPTH_MOST) unreadable('formula-deep', { most: DEPTH_MOST });
  const below = (child: jsep.Expression): Tree => treeOf(child, texts, columns, depth + 1);
  switch (node.type) {
    case 'Literal':
      return { kind: 'number', value: plain((node as jsep.Literal).raw) };
    case 'Identifier':
      return named((node as jsep.Identifier).name, texts, columns);
    case 'UnaryExpression': {
      const { operator, argument } = node as jsep.UnaryExpression;
      return { kind: 'operation', sign: operator, operands: [below(argument)] };
    }
    case 'BinaryExpression': {
      const { operator, left, right } = node as jsep.BinaryExpression;
      return { kind: 'operation', sign: operator, operands: [below(left), below(right)] };
    }
    case 'CallExpression': {
      const { callee, arguments: given } = node as jsep.CallExpression;
      if (callee.type !== 'Identifier') unreadable('formula-bracket');
      return {
        kind: 'call',
        name: (callee as jsep.Identifier).name.toUpperCase(),
        given: given.map((one) => {
          if (!one) unreadable('formula-comma');
          return below(one);
        }),
      };
    }
    default:
      unreadable('formula-sign');
  }
}

/** `.5` and `5.` are numbers too; `1e3` is a thousand. */
const plain = (raw: string): Ratio => {
  const value = scientific(raw);
  if (value === null) unreadable('formula-number', { written: raw.slice(0, 40) });
  return value;
};

/**
 * Makes commas between digits full stops where they cannot part what is given to a function: anywhere in a formula with
 * `;`, and outside the brackets of functions in others; then makes each `;` a comma.
 */
function decimalCommas(source: string): string {
  const parts = source.includes(';');
  const open: boolean[] = [];
  return source.replace(/[(),;]/g, (sign, at: number) => {
    switch (sign) {
      case '(':
        open.push(/\w/.test(source.slice(0, at).trimEnd().at(-1) ?? ''));
        return sign;
      case ')':
        open.pop();
        return sign;
      case ';':
        return ',';
      default:
        return /\d/.test(source[at - 1] ?? '') &&
          /\d/.test(source[at + 1] ?? '') &&
          (parts || !open.includes(true))
          ? '.'
          : sign;
    }
  });
}

function named(name: string, texts: readonly string[], columns: readonly string[]): Tree {
  const [, kind, at] = /^\$([ct])(\d+)$/.exec(name) ?? [];
  if (kind === 'c') return { kind: 'column', columnId: columns[Number(at)]! };
  if (kind === 't') return { kind: 'text', text: texts[Number(at)]! };
  switch (name.toUpperCase()) {
    case 'TRUE':
      return { kind: 'truth', truth: true };
    case 'FALSE':
      return { kind: 'truth', truth: false };
    case 'PI':
      return { kind: 'call', name: 'PI', given: [] };
  }
  return unreadable('formula-name', { name });
}

type Titled = readonly { readonly id: string; readonly title: string }[];

/** The formula with the titles that stand in square brackets made columns; those that no column has stay as they are. */
export function chipTitles(written: string, columns: Titled): FormulaPart[] {
  const parts: FormulaPart[] = [];
  const say = (text: string): void => {
    const last = parts.at(-1);
    if (last && 'text' in last) parts[parts.length - 1] = { text: last.text + text };
    else if (text) parts.push({ text });
  };
  // Texts between quotes are left alone.
  for (const piece of written.split(/("(?:[^"]|"")*"|\[[^\]]*\])/)) {
    const title = /^\[([^\]]*)\]$/.exec(piece)?.[1]?.trim();
    const column =
      title === undefined
        ? undefined
        : (columns.find((one) => one.title.trim() === title) ??
          columns.find((one) => one.title.trim().toLowerCase() === title.toLowerCase()));
    if (column) parts.push({ columnId: column.id });
    else say(piece);
  }
  return parts;
}

/** Reads a formula that is written with titles in square brackets: `ROUND([Maths] * 0.4; 1)`. */
export function readFormula(written: string, columns: Titled): Result<FormulaPart[]> {
  const parts = chipTitles(written, columns);
  for (const part of parts) {
    const unknown = 'text' in part ? unknownColumn(part.text) : null;
    if (unknown !== null) return refuse('formula-column', { title: unknown.slice(0, 80) });
  }
  return succeed(parts);
}

/** A title in square brackets that stands outside quotes. */
const unknownColumn = (text: string): string | null =>
  /\[([^\]]*)\]/.exec(text.replace(/"(?:[^"]|"")*"/g, ''))?.[1] ?? null;

/** The formula with titles in square brackets. */
export const writeFormula = (parts: readonly FormulaPart[], titleOf: (columnId: string) => string): string =>
  parts.map((part) => ('text' in part ? part.text : `[${titleOf(part.columnId)}]`)).join('');
