import type { AnswerKept, OpenedForm, OwnPapers, SendAnswer, UploadKept } from '@scriptum/core/contract';
import type { AnswerProblem } from '@scriptum/core/form';

/** Why something was not taken: the server's code, or that it could not be reached. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    readonly detail: string,
    readonly problems: readonly AnswerProblem[] = [],
  ) {
    super(detail);
  }
}

/** The place where a form is answered, as its address says. */
export class Door {
  readonly token: string;
  /** What makes the link to change an answer; null for a new one. */
  readonly edit: string | null;
  /** What makes the link to the papers of whoever has answered; null for a form. */
  readonly paper: string | null;
  /** The code of whoever has a link of their own; null where everybody has the same. */
  readonly code: string | null;

  constructor(path: string) {
    const [, token = '', which = '', own = null] =
      /^\/f\/([^/]+)(?:\/(change|for|paper)\/([^/]+))?\/?$/.exec(path) ?? [];
    this.token = token;
    this.paper = which === 'paper' ? own : null;
    this.edit = which === 'change' ? own : null;
    this.code = which === 'for' ? own : null;
  }

  private get own(): string {
    if (this.edit) return `/f/${this.token}/change/${this.edit}`;
    if (this.paper) return this.papersAt(this.paper);
    return this.code ? `/f/${this.token}/for/${this.code}` : `/f/${this.token}`;
  }

  /** Under which drafts of these answers are kept, beside the form. */
  get draft(): string | null {
    return this.edit ?? this.code;
  }

  open(): Promise<OpenedForm> {
    return ask(`${this.own}/form`);
  }

  /** Where the papers of whoever has answered are. */
  papersAt(link: string): string {
    return `/f/${this.token}/paper/${link}`;
  }

  papers(link: string): Promise<OwnPapers> {
    return ask(`${this.papersAt(link)}/papers`);
  }

  send(answer: SendAnswer): Promise<AnswerKept> {
    return ask(this.edit ? this.own : `${this.own}/answers`, {
      method: this.edit ? 'PUT' : 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(answer),
    });
  }

  bring(
    file: Blob,
    about: { item: string; name: string; ticket: string; nonce: string },
  ): Promise<UploadKept> {
    const own = this.code ? this.own : `/f/${this.token}`;
    return ask(`${own}/uploads?${new URLSearchParams(about)}`, { method: 'POST', body: file });
  }

  picture(assetId: string): string {
    return `/f/${this.token}/pictures/${assetId}`;
  }
}

/** @throws Refused */
async function ask<T>(address: string, init: RequestInit = {}): Promise<T> {
  let response: Response;
  try {
    response = await fetch(address, init);
  } catch {
    throw new Refused('offline', '');
  }
  const body = (await response.json().catch(() => ({}))) as T & {
    code?: string;
    detail?: string;
    problems?: AnswerProblem[];
  };
  if (!response.ok)
    throw new Refused(
      body.code ?? (response.status === 429 ? 'early' : 'trouble'),
      body.detail ?? '',
      body.problems,
    );
  return body;
}
