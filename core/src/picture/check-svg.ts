import { SaxesParser } from 'saxes';
import { refuse, succeed, type Result } from '../table/index.js';

/** What a drawing may hold at most. Typesetters read it by recursion, so that depth costs stack. */
export const SVG_LIMITS = {
  depth: 100,
  elements: 100_000,
  /** Bytes of the file. */
  bytes: 4 * 1024 * 1024,
} as const;

/** Attributes that load what they name (SVG 2, 16.1; HTML for what stands in a `foreignObject`). */
const LOADING = new Set(['href', 'xlink:href', 'src', 'srcset', 'data', 'poster', 'background']);
/** Attributes that are written in CSS and may name a resource (SVG 2, 6.6). */
const STYLED =
  /^(?:style|fill|stroke|filter|mask|clip-path|cursor|marker(?:-start|-mid|-end)?|color-profile|shape-inside|shape-subtract)$/;
/** A picture inside the drawing: its bytes are in the attribute. Drawings in drawings are not among them. */
const INSIDE = /^data:image\/(?:png|jpe?g|gif|webp)[;,]/i;

/**
 * Looks whether a drawing (SVG 2) stands by itself: nothing in it names a file, an address or another picture, so that it
 * can show nothing but what is in it.
 *
 * @returns nothing, or a refusal: `svg-damaged`, `svg-reference`, `svg-entities`, `svg-deep`, `svg-large`.
 */
export function checkSvg(bytes: Uint8Array): Result<void> {
  if (bytes.length > SVG_LIMITS.bytes)
    return refuse('svg-large', { bytes: bytes.length, most: SVG_LIMITS.bytes });
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return refuse('svg-damaged', { encoded: false });
  }
  const look = new Look();
  const parser = new SaxesParser();
  try {
    parser.on('doctype', (doctype) => look.doctype(doctype));
    parser.on('processinginstruction', ({ target, body }) => look.instruction(target, body));
    parser.on('opentag', ({ name, attributes }) => look.open(name, attributes as Record<string, string>));
    parser.on('closetag', () => look.close());
    parser.on('text', (words) => look.words(words));
    parser.on('cdata', (words) => look.words(words));
    parser.on('error', (error) => {
      throw error;
    });
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Found) return error.problem;
    return refuse('svg-damaged', { encoded: true });
  }
  return succeed(undefined);
}

/** Ends the reading at the first fault. */
class Found extends Error {
  constructor(readonly problem: Result<never>) {
    super();
  }
}

class Look {
  private elements = 0;
  private readonly path: string[] = [];

  doctype(doctype: string): void {
    if (/<!ENTITY|\[/i.test(doctype)) throw new Found(refuse('svg-entities'));
  }

  instruction(target: string, body: string): void {
    if (/stylesheet/i.test(target)) throw reference(body);
  }

  open(name: string, attributes: Readonly<Record<string, string>>): void {
    this.path.push(name.replace(/^.*:/, '').toLowerCase());
    if (this.path.length > SVG_LIMITS.depth) throw new Found(refuse('svg-deep', { most: SVG_LIMITS.depth }));
    if (++this.elements > SVG_LIMITS.elements)
      throw new Found(refuse('svg-large', { bytes: null, most: SVG_LIMITS.elements }));
    for (const [key, value] of Object.entries(attributes)) {
      const plain = key.toLowerCase();
      if (plain === 'xml:base') throw reference(value);
      // A link is a place to go to, not something to load.
      if (LOADING.has(plain) && this.path.at(-1) !== 'a') this.loads(value);
      if (STYLED.test(plain)) this.styles(value);
    }
  }

  close(): void {
    this.path.pop();
  }

  words(words: string): void {
    if (this.path.at(-1) === 'style') this.styles(words);
  }

  private loads(value: string): void {
    const target = value.trim();
    if (target !== '' && !target.startsWith('#') && !INSIDE.test(target)) throw reference(target);
  }

  /** CSS Values 4, 4.5, and CSS Cascade 5, 2: `url(…)`, `src(…)`, `image(…)` and `@import` load. */
  private styles(value: string): void {
    if (!/[(@\\]/.test(value)) return;
    // An escape can hide the letters of a function's name.
    const css = value
      .replace(/\/\*[\s\S]*?\*\//g, '')
      .replace(/\\([0-9a-f]{1,6})\s?/gi, (_, hex: string) => letter(Number.parseInt(hex, 16)))
      .replace(/\\/g, '');
    if (/@import/i.test(css)) throw reference('@import');
    for (const [, target = ''] of css.matchAll(/\b(?:url|src|image|image-set)\(\s*["']?([^"')]*)/gi))
      this.loads(target);
  }
}

const letter = (code: number): string => (code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : '');

function reference(to: string): Found {
  const named = to.length > 80 ? `${to.slice(0, 80)}…` : to;
  return new Found(refuse('svg-reference', { to: named }));
}
