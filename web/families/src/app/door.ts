import type { AnswerKept, OpenedForm, SendAnswer, UploadKept } from '@scriptum/core/contract';
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

  constructor(path: string) {
    const [, token = '', edit = null] = /^\/f\/([^/]+)(?:\/change\/([^/]+))?\/?$/.exec(path) ?? [];
    this.token = token;
    this.edit = edit;
  }

  private get own(): string {
    return this.edit ? `/f/${this.token}/change/${this.edit}` : `/f/${this.token}`;
  }

  open(): Promise<OpenedForm> {
    return ask(`${this.own}/form`);
  }

  send(answer: SendAnswer): Promise<AnswerKept> {
    return ask(this.edit ? this.own : `/f/${this.token}/answers`, {
      method: this.edit ? 'PUT' : 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(answer),
    });
  }

  bring(
    file: Blob,
    about: { item: string; name: string; ticket: string; nonce: string },
  ): Promise<UploadKept> {
    return ask(`/f/${this.token}/uploads?${new URLSearchParams(about)}`, { method: 'POST', body: file });
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
