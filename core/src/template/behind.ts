import type { Letter } from './letter.js';
import { emptyPlaced, type Placed } from './placed.js';
import type { Template } from './template.js';

/** The pages behind letters as templates of their own, so that the same letter gives the same one. */
const known = new WeakMap<Letter, Placed>();

/**
 * The pages with boxes that a template has: all of a placed one, or those behind a letter's text; null where it has none. Fields,
 * parts and language of these are the letter's.
 */
export function placedOf(template: Template): Placed | null {
  if (template.kind === 'placed') return template;
  if (!template.behind) return null;
  let placed = known.get(template);
  if (!placed) {
    const { behind, name, language, fields, parts, standard, letterhead, signature } = template;
    placed = {
      kind: 'placed',
      name,
      language,
      fields,
      ...behind,
      ...(parts ? { parts } : {}),
      ...(standard ? { standard } : {}),
      ...(letterhead ? { letterhead } : {}),
      ...(signature ? { signature } : {}),
    };
    known.set(template, placed);
  }
  return placed;
}

/** A letter with its pages behind it changed, and what they share with it. */
export function withPlaced(letter: Letter, placed: Placed): Letter {
  const { page, font, pages, boxes, fillable, fields, parts, language, standard } = placed;
  const changed: Letter = {
    ...letter,
    language,
    fields,
    behind: { page, font, pages, boxes, ...(fillable ? { fillable } : {}) },
    ...(parts ? { parts } : {}),
    ...(standard ? { standard } : {}),
  };
  known.set(changed, placed);
  return changed;
}

/** A letter with one empty page of its own size behind it. */
export const withFirstBehind = (letter: Letter): Letter =>
  withPlaced(letter, {
    ...emptyPlaced(letter.name),
    language: letter.language,
    page: { width: letter.page.width, height: letter.page.height, margins: letter.page.margins },
    font: letter.font,
    fields: letter.fields,
    ...(letter.parts ? { parts: letter.parts } : {}),
    ...(letter.standard ? { standard: letter.standard } : {}),
  });

/**
 * A letter with the pages of a placed template behind it: copies, which are the letter's from then on. Fields that both have are
 * told apart by their identities; where one of these means another field in each, the pages' field gets a new one.
 */
export function withPagesBehind(letter: Letter, placed: Placed, newId: () => string): Letter {
  const there = new Map(letter.fields.map((field) => [field.id, field]));
  const other = new Map(
    placed.fields.flatMap((field) => {
      const mine = there.get(field.id);
      return mine && JSON.stringify(mine) !== JSON.stringify(field) ? [[field.id, newId()] as const] : [];
    }),
  );
  const named = JSON.parse(JSON.stringify(placed), (key, value: unknown) =>
    (key === 'fieldId' || key === 'id') && typeof value === 'string' ? (other.get(value) ?? value) : value,
  ) as Placed;
  const parts = new Map([...(letter.parts ?? []), ...(named.parts ?? [])].map((part) => [part.id, part]));
  const fields = [...letter.fields, ...named.fields.filter(({ id }) => !there.has(id))];
  return withPlaced(letter, {
    ...named,
    name: letter.name,
    language: letter.language,
    fields,
    ...(parts.size > 0 ? { parts: [...parts.values()] } : {}),
  });
}
