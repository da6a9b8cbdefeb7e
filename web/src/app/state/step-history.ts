import { signal } from '@angular/core';

interface Stack<T> {
  past: T[];
  future: T[];
  /** The content that the last step led to. */
  known: T | null;
  reason: string;
  at: number;
}

/** Steps of one writing that can be taken back. */
const STEPS_MOST = 200;
/** Milliseconds within which steps for one reason are one: typing, keys that are held. */
const TOGETHER = 700;

/** What was done to contents, each under its identity, so that each step can be taken back and done again, also after another station. */
export class StepHistory<T extends object> {
  private readonly stacks = new Map<string, Stack<T>>();
  /** Counts changes, so that screens know when to look again. */
  private readonly beat = signal(0);

  /** Takes a step down. @param reason steps for one reason, shortly after each other, are one; blank for one of its own. */
  note(id: string, before: T, after: T, reason: string, now: number): void {
    const stack = this.of(id, before);
    const together =
      reason !== '' && reason === stack.reason && now - stack.at < TOGETHER && stack.past.length > 0;
    if (!together) stack.past.push(before);
    if (stack.past.length > STEPS_MOST) stack.past.shift();
    stack.future = [];
    stack.reason = reason;
    stack.at = now;
    stack.known = after;
    this.beat.update((n) => n + 1);
  }

  /** What was there before the last step; null where there is none. */
  undo(id: string, now: T): T | null {
    return this.step(id, now, 'past', 'future');
  }

  redo(id: string, now: T): T | null {
    return this.step(id, now, 'future', 'past');
  }

  can(id: string, now: T, which: 'undo' | 'redo'): boolean {
    this.beat();
    const stack = this.stacks.get(id);
    if (!stack || stack.known !== now) return false;
    return (which === 'undo' ? stack.past : stack.future).length > 0;
  }

  private step(id: string, now: T, from: 'past' | 'future', to: 'past' | 'future'): T | null {
    const stack = this.of(id, now);
    const content = stack[from].pop();
    if (!content) return null;
    stack[to].push(now);
    stack.known = content;
    stack.reason = '';
    this.beat.update((n) => n + 1);
    return content;
  }

  /** What somebody else changed in between is not to be taken back with one's own. */
  private of(id: string, now: T): Stack<T> {
    let stack = this.stacks.get(id);
    if (!stack || stack.known !== now) {
      stack = { past: [], future: [], known: now, reason: '', at: 0 };
      this.stacks.set(id, stack);
    }
    return stack;
  }
}
