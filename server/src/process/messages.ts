/** Something that several tasks share, sent to a child once: a picture, a program. */
export interface Part {
  /** Names the value; equal keys mean equal values. */
  readonly key: string;
  /** Bytes, about. */
  readonly size: number;
  readonly value: unknown;
}

export interface ToChild<Task> {
  readonly id: number;
  readonly task: Task;
  /** The task's parts in their order; without a value where the child has it. */
  readonly parts: readonly ({ readonly key: string; readonly value: unknown } | { readonly key: string })[];
  /** Parts that the child need not keep any longer. */
  readonly forget: readonly string[];
}

export interface Thrown {
  readonly message: string;
  readonly stack?: string | undefined;
  readonly code?: string | undefined;
}

export type FromChild<Answer> =
  | { readonly kind: 'ready' }
  /** How far it has come. */
  | { readonly kind: 'told'; readonly id: number; readonly done: number }
  | { readonly kind: 'done'; readonly id: number; readonly answer: Answer; readonly memory: number }
  | { readonly kind: 'threw'; readonly id: number; readonly error: Thrown; readonly memory: number };
