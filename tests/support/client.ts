/** A person at the other end of HTTP: keeps cookies, sends the session's token, gives back what came. */
export class Client {
  private readonly cookies = new Map<string, string>();
  /** Whether the session's token goes along; off to see that the server asks for it. */
  sendToken = true;

  constructor(private readonly origin: string) {}

  async request<T = unknown>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
    const response = await this.send(method, path, body);
    const bytes = Buffer.from(await response.arrayBuffer());
    const type = response.headers.get('content-type') ?? '';
    const json = /\bjson\b/.test(type) ? (JSON.parse(bytes.toString()) as T) : (undefined as T);
    return { status: response.status, type, headers: response.headers, json, bytes };
  }

  /** How a request is answered, whatever follows. */
  async statusOf(method: string, path: string): Promise<number> {
    const response = await this.send(method, path);
    await response.body?.cancel();
    return response.status;
  }

  private async send(method: string, path: string, body?: unknown): Promise<Response> {
    const headers: Record<string, string> = {
      cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
    };
    const token = this.cookies.get('XSRF-TOKEN');
    if (token !== undefined && this.sendToken) headers['x-xsrf-token'] = decodeURIComponent(token);
    const form = body instanceof FormData;
    if (body !== undefined && !form) headers['content-type'] = 'application/json';
    const response = await fetch(`${this.origin}${path}`, {
      method,
      headers,
      redirect: 'manual',
      ...(body === undefined ? {} : { body: form ? body : typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [pair = ''] = cookie.split(';');
      this.cookies.set(pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1));
    }
    return response;
  }

  /** Reads server-sent events until the signal ends them. */
  async stream(
    path: string,
    signal: AbortSignal,
    take: (event: unknown) => void,
  ): Promise<{ readonly ended: Promise<void> }> {
    const cookie = [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
    const { body } = await fetch(`${this.origin}/api${path}`, { headers: { cookie }, signal });
    const read = async (): Promise<void> => {
      let rest = '';
      const decoder = new TextDecoder();
      for await (const chunk of body as unknown as AsyncIterable<Uint8Array>) {
        const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
        rest = lines.pop() ?? '';
        for (const line of lines) if (line.startsWith('data: ')) take(JSON.parse(line.slice(6)));
      }
    };
    return { ended: read().catch(() => undefined) };
  }

  /** What a request has to carry to come from this person. */
  async cookieHeaders(): Promise<Readonly<Record<string, string>>> {
    await this.get('/session');
    return {
      cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      'x-xsrf-token': decodeURIComponent(this.cookies.get('XSRF-TOKEN') ?? ''),
    };
  }

  /** Reads a file of a deliverable as a browser does: led to where no session goes. */
  async deliverable(build: string, path: string, format = 'html'): Promise<Answer<unknown>> {
    const led = await this.get(`/deliverables/${build}/${format}/${path}`);
    const location = led.headers.get('location');
    return location === null ? led : new Client(this.origin).request('GET', location.slice(this.origin.length));
  }

  get<T>(path: string): Promise<Answer<T>> {
    return this.request<T>('GET', `/api${path}`);
  }

  post<T>(path: string, body: unknown = {}): Promise<Answer<T>> {
    return this.request<T>('POST', `/api${path}`, body);
  }

  put<T>(path: string, body: unknown): Promise<Answer<T>> {
    return this.request<T>('PUT', `/api${path}`, body);
  }

  delete<T>(path: string): Promise<Answer<T>> {
    return this.request<T>('DELETE', `/api${path}`);
  }
}

export interface Answer<T> {
  readonly status: number;
  readonly type: string;
  readonly headers: Headers;
  readonly json: T;
  readonly bytes: Buffer;
}

/** What every refusal looks like (RFC 9457). */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
}
