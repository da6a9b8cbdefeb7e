import type { Running } from '@scriptum/server/server';

/** One request to a running server. @returns what it answers. */
export type Call = <T>(method: string, path: string, body?: unknown) => Promise<T>;

/** Who is signed in with the demo account. */
export async function signedIn({ url, demo }: Pick<Running, 'url' | 'demo'>): Promise<Call> {
  const jar = new Map<string, string>();
  let token = '';
  const call: Call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const response = await fetch(`${url}/api${path}`, {
      method,
      headers: {
        cookie: [...jar].map((pair) => pair.join('=')).join('; '),
        'x-csrf-token': token,
        ...(body ? { 'content-type': 'application/json' } : {}),
      },
      body: body ? JSON.stringify(body) : undefined,
    });
    for (const line of response.headers.getSetCookie()) {
      const [pair = ''] = line.split(';');
      jar.set(pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1));
    }
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
    return (await response.json()) as T;
  };
  const takeToken = async (): Promise<void> => {
    token = (await call<{ token: string }>('GET', '/csrf')).token;
  };
  await takeToken();
  await call('POST', '/sign-in', demo);
  await takeToken();
  return call;
}
