import { diff3Merge } from 'node-diff3';
import { z } from 'zod';
import { Identity } from '../column/index.js';
import { Template } from './template.js';

/** What one learner's papers of one template say otherwise. */
export const Exception = z.object({
  kind: z.literal('exception'),
  entryId: Identity,
  /** The template. */
  of: Identity,
  /** The template as it was when somebody looked at both last. */
  base: Template,
  /** What it is for this learner. */
  own: Template,
});
export type Exception = z.infer<typeof Exception>;

/** Names what exceptions for one entry and one template have in common: there is one of them. */
export const exceptionKey = ({ entryId, of }: Pick<Exception, 'entryId' | 'of'>): string =>
  `${entryId} ${of}`;

/**
 * A template with what is another one for one learner. What only the template changed since is taken from it; what is the
 * learner's own stays, also where the template changed there too, and that is told. Its name, and who gets it, are always the
 * template's.
 *
 * @returns touched: true where both changed the same.
 */
export function withException(now: Template, exception: Pick<Exception, 'base' | 'own'>): Upon {
  const before = known.get(exception);
  if (before?.now === now) return before.upon;
  const upon = putUpon(now, exception);
  known.set(exception, { now, upon });
  return upon;
}

interface Upon {
  readonly content: Template;
  readonly touched: boolean;
}

/** Kept for as long as both stay the same: it is asked for with each key that somebody presses. */
const known = new WeakMap<object, { readonly now: Template; readonly upon: Upon }>();

function putUpon(now: Template, { base, own }: Pick<Exception, 'base' | 'own'>): Upon {
  const common = { name: now.name, off: now.off, variant: now.variant };
  const stays = (content: Template): Template => {
    const whole: Record<string, unknown> = { ...content, ...common };
    for (const part of ['off', 'variant'] as const) if (common[part] === undefined) delete whole[part];
    return whole as Template;
  };
  if (now.kind !== own.kind || base.kind !== own.kind) return { content: stays(own), touched: true };
  const both = new Merging();
  const merged = both.parts(stays(base) as Parts, stays(own) as Parts, now as Parts);
  // What goes together in neither of the two is nobody's wish: then all of it is the learner's own.
  const checked = Template.safeParse(merged);
  return checked.success
    ? { content: checked.data, touched: both.touched }
    : { content: stays(own), touched: true };
}

type Parts = Readonly<Record<string, unknown>>;
interface Named extends Parts {
  readonly id: string;
}

/** Puts one's own changes upon what others changed since; one's own count where both changed the same. */
class Merging {
  touched = false;

  /** Things with parts: each part by itself. */
  parts(base: Parts, own: Parts, now: Parts): Parts {
    const merged: Record<string, unknown> = {};
    for (const part of new Set([...Object.keys(now), ...Object.keys(own)])) {
      const value = this.part(base[part], own[part], now[part]);
      if (value !== undefined) merged[part] = value;
    }
    return merged;
  }

  private part(base: unknown, own: unknown, now: unknown): unknown {
    if (same(own, base)) return now;
    if (same(now, base) || same(own, now)) return own;
    if (areNamed(base) && areNamed(own) && areNamed(now)) return this.named(base, own, now);
    if (isText(base) && isText(own) && isText(now))
      return { ...own, content: this.blocks(base.content, own.content, now.content) };
    if (isPages(base) && isPages(own) && isPages(now)) return this.parts(base, own, now);
    this.touched = true;
    return own;
  }

  /** Things with identities, such as boxes: in the order of the template, with those that are the learner's alone behind. */
  private named(base: readonly Named[], own: readonly Named[], now: readonly Named[]): Named[] {
    const [before, mine, theirs] = [base, own, now].map((all) => new Map(all.map((one) => [one.id, one])));
    const order = same(ids(base), ids(now)) ? [...ids(own), ...ids(now)] : [...ids(now), ...ids(own)];
    return [...new Set(order)].flatMap((id): Named[] => {
      const [old, my, one] = [before!.get(id), mine!.get(id), theirs!.get(id)];
      if (same(my, old)) return one ? [one] : [];
      if (same(one, old) || same(my, one)) return my ? [my] : [];
      if (old && my && one) return [this.parts(old, my, one) as Named];
      this.touched = true;
      return my ? [my] : [];
    });
  }

  /**
   * Lines that stand beside each other, of which both changed some: where none came or went each is taken by itself.
   */
  private both({ a: own, o: base, b: now }: Conflict): readonly string[] {
    if (own.length !== base.length || now.length !== base.length) {
      this.touched = true;
      return own;
    }
    return own.map((line, n) => {
      if (line === base[n]) return now[n]!;
      if (now[n] !== base[n] && now[n] !== line) this.touched = true;
      return line;
    });
  }

  /** Blocks of a text, as lines of a file are merged. */
  private blocks(
    base: readonly unknown[],
    own: readonly unknown[],
    now: readonly unknown[],
  ): readonly unknown[] {
    const known = new Map<string, unknown>();
    const lines = (all: readonly unknown[]): string[] =>
      all.map((one) => {
        const line = meant(one);
        known.set(line, one);
        return line;
      });
    return diff3Merge(lines(own), lines(base), lines(now))
      .flatMap(({ ok, conflict }) => ok ?? (conflict ? this.both(conflict) : []))
      .map((line) => known.get(line));
  }
}

interface Conflict {
  readonly a: readonly string[];
  readonly o: readonly string[];
  readonly b: readonly string[];
}

/**
 * What a value means, as JSON: the order of keys does not count (RFC 8785, 3.2.3), and what is null is as good as not there, since editors
 * write down each attribute that could be set.
 */
const meant = (value: unknown): string =>
  JSON.stringify(value, (key, inner: unknown) => {
    if (typeof inner !== 'object' || inner === null || Array.isArray(inner)) return inner ?? undefined;
    const set = Object.entries(inner).filter(([, one]) => one !== null && one !== undefined);
    if (set.length === 0 && key === 'attrs') return undefined;
    return Object.fromEntries(set.sort(([one], [other]) => (one < other ? -1 : 1)));
  }) ?? '';

const same = (a: unknown, b: unknown): boolean => a === b || meant(a) === meant(b);

const isParts = (value: unknown): value is Parts =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const areNamed = (value: unknown): value is readonly Named[] =>
  Array.isArray(value) && value.every((one) => isParts(one) && typeof one['id'] === 'string');
const isText = (value: unknown): value is Parts & { readonly content: readonly unknown[] } =>
  isParts(value) && value['type'] === 'doc' && Array.isArray(value['content']);
/** Pages behind a letter. */
const isPages = (value: unknown): value is Parts => isParts(value) && areNamed(value['boxes']);
const ids = (all: readonly Named[]): string[] => all.map(({ id }) => id);
