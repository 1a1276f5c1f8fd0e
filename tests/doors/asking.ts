/** Asking the running application, and what is wrong with an answer. */

import { request as send } from 'node:http';

export const base = new URL(process.env.BASE_URL ?? 'http://127.0.0.1:3000');

/** How long an answer may take, ms. */
const PATIENCE = 2000;

export interface Asked {
  method: string;
  path: string;
  headers?: Record<string, string>;
  body?: Buffer | undefined;
}
export interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
  ms: number;
}

/** As it is, without what a client would mend. */
export function ask({ method, path, headers = {}, body }: Asked): Promise<Answer> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const request = send(
      {
        host: base.hostname,
        port: base.port,
        method,
        path,
        headers: {
          host: base.host,
          origin: base.origin,
          ...(body ? { 'content-length': String(body.length) } : {}),
          ...headers,
        },
      },
      (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('error', reject);
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            headers: response.headers,
            text: Buffer.concat(parts).toString('latin1'),
            ms: performance.now() - started,
          }),
        );
      },
    );
    request.setTimeout(20_000, () => request.destroy(new Error('No answer within 20 s.')));
    request.on('error', reject);
    request.end(body);
  });
}

/** What is wrong with an answer; null when nothing is. */
export function fault(asked: Asked, { status, headers, text, ms }: Answer): string | null {
  if (status >= 500) return `status ${status}: ${text.slice(0, 200)}`;
  if (ms > PATIENCE) return `took ${Math.round(ms)} ms`;
  if (headers['x-content-type-options'] !== 'nosniff' || !headers['content-security-policy'])
    return 'no security headers';
  if (/\n\s+at .+:\d+:\d+|node_modules|select .+ from|SQLSTATE/i.test(text) && status >= 400)
    return `tells of the inside: ${text.slice(0, 200)}`;
  if (status < 400 || !asked.path.startsWith('/api/') || asked.method === 'HEAD') return null;
  try {
    const body = JSON.parse(Buffer.from(text, 'latin1').toString()) as {
      error?: string;
      version?: number;
      left?: string[];
      id?: string;
    };
    const sentence = body.error ?? body.left?.[0];
    if (status === 409 && (body.version !== undefined || body.id !== undefined)) return null;
    if (!sentence || !/^[A-Z“"(\p{L}].*[.?!”)]$/su.test(sentence))
      return `no sentence: ${text.slice(0, 200)}`;
    if (/invalid_|ZodError|Expected|expected string|undefined|\[object/.test(sentence))
      return `raw: ${sentence}`;
    return null;
  } catch {
    return `no JSON: ${text.slice(0, 120)}`;
  }
}
