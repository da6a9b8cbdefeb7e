import { tooLargeToWatch, WatchFault, type Found, type Known } from './watched-place.js';

/** Milliseconds that one answer may take. */
const TIME_LIMIT = 15_000;
/** Times that it may say to look elsewhere. */
const REDIRECTS = 3;

/** A file at an address of the school's own network (RFC 9110). */
export class WatchedAddress {
  /** @param origins where addresses may lead, also by a redirect. */
  constructor(
    private readonly origins: readonly string[],
    private readonly most: number,
  ) {}

  mayGoTo(url: string): boolean {
    return URL.canParse(url) && this.origins.includes(new URL(url).origin);
  }

  /** @throws WatchFault */
  async find(
    { url, user, password }: { readonly url: string; readonly user: string; readonly password: string },
    known: Known,
  ): Promise<Found> {
    const signal = AbortSignal.timeout(TIME_LIMIT);
    const headers: Record<string, string> = { accept: '*/*' };
    // RFC 7617.
    if (user !== '' || password !== '')
      headers['authorization'] = `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`;
    Object.assign(headers, known.isRead ? conditionOf(known.stamp) : {});
    let at = url;
    for (let hop = 0; hop <= REDIRECTS; hop++) {
      if (!this.mayGoTo(at))
        throw new WatchFault(
          hop === 0
            ? 'Files may not be read from this address any more. Whoever looks after Scriptum can allow it (SCRIPTUM_WATCH_ADDRESSES).'
            : `The address leads on to ${originOf(at)}, which is not allowed.`,
        );
      const response = await reaching(() => fetch(at, { headers, redirect: 'manual', signal }));
      if (response.status === 304) return { kind: 'same' };
      const next = response.status >= 300 && response.status < 400 ? response.headers.get('location') : null;
      if (next === null) return await this.read(response, at);
      await response.body?.cancel();
      if (!URL.canParse(next, at)) throw new WatchFault('The address leads on to nowhere.');
      const to = new URL(next, at).href;
      // Who may look there is not told elsewhere.
      if (originOf(to) !== originOf(at)) delete headers['authorization'];
      at = to;
    }
    throw new WatchFault('The address leads on and on.');
  }

  private async read(response: Response, at: string): Promise<Found> {
    if (!response.ok) {
      await response.body?.cancel();
      throw new WatchFault(
        `The address gives no file: it answered ${response.status}. ${WHY[response.status] ?? 'Ask whoever looks after it.'}`,
      );
    }
    const chunks: Uint8Array[] = [];
    let length = 0;
    await reaching(async () => {
      for await (const chunk of (response.body ?? []) as AsyncIterable<Uint8Array>) {
        length += chunk.length;
        if (length > this.most) throw tooLargeToWatch(this.most);
        chunks.push(chunk);
      }
    });
    return {
      kind: 'file',
      name: nameOf(response, at),
      bytes: Buffer.concat(chunks),
      stamp: stampOf(response),
    };
  }
}

/** Its entity tag, else when it was changed last (RFC 9110, 8.8). */
function stampOf({ headers }: Response): string | null {
  const [tag, time] = [headers.get('etag'), headers.get('last-modified')];
  const stamp = tag !== null ? `tag ${tag}` : time !== null ? `time ${time}` : null;
  return stamp !== null && stamp.length <= 500 && /^[\x20-\x7e]+$/.test(stamp) ? stamp : null;
}

/** Asks for it only where it is another one (RFC 9110, 13.1). */
function conditionOf(stamp: string | null): Record<string, string> {
  if (stamp?.startsWith('tag ')) return { 'if-none-match': stamp.slice(4) };
  if (stamp?.startsWith('time ')) return { 'if-modified-since': stamp.slice(5) };
  return {};
}

function nameOf({ headers }: Response, at: string): string {
  // RFC 6266; the extended form is that of RFC 8187.
  const told = headers.get('content-disposition') ?? '';
  const extended = /filename\*\s*=\s*utf-8'[^']*'([^;\s]+)/i.exec(told)?.[1];
  const plain = /filename\s*=\s*(?:"([^"]+)"|([^;\s]+))/i.exec(told);
  const last = new URL(at).pathname.split('/').filter(Boolean).at(-1) ?? '';
  const name = decoded(extended ?? plain?.[1] ?? plain?.[2] ?? last)
    .replace(/^.*[/\\]/, '')
    .replace(/\p{Cc}/gu, '')
    .trim();
  return [...(name || 'File from the address')].slice(0, 200).join('');
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

const originOf = (url: string): string => new URL(url).origin;

const WHY: Readonly<Record<number, string>> = {
  401: 'Name or password are not right.',
  403: 'This account may not read it.',
  404: 'There is no such file.',
  410: 'The file is there no more.',
};

async function reaching<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof WatchFault) throw error;
    throw new WatchFault(
      'The address cannot be reached, or its answer broke off. Look whether it is right, and whether its server runs.',
    );
  }
}
