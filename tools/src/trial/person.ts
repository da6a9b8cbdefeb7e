import { writingsOf } from '@scriptum/core/template';
import type { Folio, FolioSummary, Pack, RunStarted } from '@scriptum/core/contract';

/** A member of staff at a server's HTTP interface: keeps cookies and the token. */
export class Person {
  private readonly jar = new Map<string, string>();
  private token = '';

  constructor(private readonly url: string) {}

  /** Signs in to the demo school. */
  static async ofDemo(url: string): Promise<Person> {
    const person = new Person(url);
    const { demo } = await person.call<{ demo: { email: string; password: string } }>('GET', '/me');
    await person.takeToken();
    await person.call('POST', '/sign-in', demo);
    await person.takeToken();
    return person;
  }

  /** @throws Error where the answer is none of success */
  async call<T>(method: string, path: string, body?: unknown): Promise<T> {
    const bytes = body instanceof Uint8Array;
    const response = await fetch(`${this.url}/api${path}`, {
      method,
      headers: {
        cookie: [...this.jar].map((pair) => pair.join('=')).join('; '),
        'x-csrf-token': this.token,
        ...(body === undefined
          ? {}
          : { 'content-type': bytes ? 'application/octet-stream' : 'application/json' }),
      },
      ...(body === undefined ? {} : { body: bytes ? Buffer.from(body) : JSON.stringify(body) }),
    });
    for (const line of response.headers.getSetCookie()) {
      const [pair = ''] = line.split(';');
      this.jar.set(pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1));
    }
    const answer = (await response.json()) as T;
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${JSON.stringify(answer)}`);
    return answer;
  }

  private async takeToken(): Promise<void> {
    this.token = (await this.call<{ token: string }>('GET', '/csrf')).token;
  }

  /** A folio with these rows of name, address and remark, and a letter that prints name and remark. */
  async folio(rows: readonly (readonly [name: string, mail: string, remark: string])[]): Promise<Folio> {
    const { id } = await this.call<FolioSummary>('POST', '/folios', { title: 'Trial' });
    const quoted = rows.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(','));
    const sheet = new TextEncoder().encode(`Name,Mail,Remark\n${quoted.join('\n')}\n`);
    const folio = await this.call<Folio>('POST', `/folios/${id}/sheet?name=roll.csv`, sheet);
    await this.write(folio, ['field0', 'field2', 'number']);
    return folio;
  }

  /** Writes a letter that prints these fields, numbered by their columns, and a note. @param to the column of its address, if another one */
  async write({ id, roll, writings }: Folio, printed: readonly string[], to?: string): Promise<void> {
    const fields = [
      ...roll.columns.map((column, n) => ({
        id: `field${n}`,
        name: column.title,
        columnId: column.id,
      })),
      { id: 'number', name: 'Number', columnId: null, same: { kind: 'number' } },
    ];
    const paragraph = (fieldId: string): object => ({
      type: 'paragraph',
      content: [{ type: 'field', attrs: { fieldId } }],
    });
    const body = { type: 'doc', content: printed.map(paragraph) };
    const [letter] = writingsOf(writings, 'letter');
    await this.call('PUT', `/folios/${id}/writings/${letter!.id}`, {
      kind: 'letter',
      version: letter!.version,
      content: { ...letter!.content, fields, body },
    });
    const noted = fields.slice(0, -1);
    const subject = [{ type: 'text', text: 'Your paper' }];
    const [note] = writingsOf(writings, 'note');
    await this.call('PUT', `/folios/${id}/writings/${note!.id}`, {
      kind: 'note',
      version: note!.version,
      content: {
        ...note!.content,
        subject,
        body: { type: 'doc', content: [paragraph('field0')] },
        fields: noted,
        ...(to ? { to: [{ columnId: to }] } : {}),
      },
    });
  }

  press(folioId: string): Promise<RunStarted> {
    return this.call<RunStarted>('POST', `/folios/${folioId}/runs`, {});
  }

  pack(folioId: string): Promise<Pack> {
    const asked = { kind: 'print', who: 'all', sort: [], apart: null, fronts: false, copies: null };
    return this.call<Pack>('POST', `/folios/${folioId}/packs`, asked);
  }

  async dispatch(folioId: string): Promise<void> {
    const { planId } = await this.call<{ planId: string }>('GET', `/folios/${folioId}/dispatch`);
    await this.call('POST', `/folios/${folioId}/dispatch`, { planId });
  }
}
