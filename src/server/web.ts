/**
 * The web server: `node .build/web.cjs [--port 3000] [--host 127.0.0.1] [--dev]`, with DATABASE_URL. Every request passes the gate before
 * Next.js sees it, and every answer carries the security headers.
 */

import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { parseArgs } from 'node:util';
import next from 'next';
import { allowedHosts, securityHeaders, turnAway, type Turned } from './gate';
import { clearSpool } from './spool';

/** A connection on which nothing moves for so long is ended: longer than the longest work that somebody waits for (threads.ts), ms. */
const IDLE = 11 * 60_000;

/**
 * A connection is kept for its next request for longer than browsers keep theirs, ms: whoever ends one just as the other asks once more
 * loses that request.
 */
const KEPT = 330_000;

async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      port: { type: 'string', default: '3000' },
      host: { type: 'string', default: '127.0.0.1' },
      dev: { type: 'boolean', default: false },
    },
  });
  const { host: hostname, dev } = values;
  const port = Number(values.port);
  await clearSpool();
  process.env.NEXT_TELEMETRY_DISABLED = '1';
  const app = next({ dev, dir: process.cwd(), hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  const allowed = allowedHosts();

  const server = createServer((request, response) => {
    void serve(request, response).catch((error: unknown) => {
      console.error(error);
      turned(response, { status: 500, error: 'Something failed on the server. Try again.' });
    });
  });
  async function serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { method = 'GET', url = '/', headers } = request;
    const refused = turnAway({ method, url, headers }, allowed);
    const isPage = !refused && !url.startsWith('/api/');
    const nonce = isPage ? randomBytes(16).toString('base64') : null;
    // Development compiles pages with eval and talks to them over a socket: only a production build is held to the policy.
    if (!dev)
      for (const [name, value] of Object.entries(securityHeaders(nonce))) response.setHeader(name, value);
    if (refused) return turned(response, refused, request);
    // What a proxy would say is not believed: there is none in front of us.
    for (const name of Object.keys(headers)) if (name.startsWith('x-forwarded-')) delete headers[name];
    if (nonce) {
      headers['content-security-policy'] = String(response.getHeader('content-security-policy') ?? '');
      headers['x-nonce'] = nonce;
    }
    await handle(request, response);
  }
  server.keepAliveTimeout = KEPT;
  server.headersTimeout = 30_000;
  // A part of a log has ten minutes to arrive.
  server.requestTimeout = 600_000;
  server.setTimeout(IDLE);
  server.maxHeadersCount = 100;
  server.on('clientError', (error: Error & { code?: string }, socket) => {
    if (!socket.writable) return void socket.destroy();
    const [status, why] =
      error.code === 'HPE_HEADER_OVERFLOW'
        ? ['431 Request Header Fields Too Large', 'The address or the headers of the request are too long.']
        : ['400 Bad Request', 'The request cannot be read.'];
    const body = JSON.stringify({ error: why });
    const headers = {
      ...securityHeaders(null),
      'content-type': 'application/json; charset=utf-8',
      'content-length': String(body.length),
      connection: 'close',
    };
    const lines = Object.entries(headers).map(([name, value]) => `${name}: ${value}`);
    socket.end([`HTTP/1.1 ${status}`, ...lines, '', body].join('\r\n'));
  });
  server.listen(port, hostname);
  const end = () => {
    server.close();
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 200);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end);
}

/** So much of a body is let go, and for so long, before its sender is told why: who is cut off while sending hears nothing. Bytes, ms. */
const LET_GO = 32 * 2 ** 20;
const GRACE = 2000;

/** Turned away before any work. */
function turned(response: ServerResponse, { status, error, allow }: Turned, request?: IncomingMessage): void {
  if (response.headersSent) return void response.end();
  let answered = false;
  const answer = () => {
    if (answered) return;
    answered = true;
    clearTimeout(timer);
    response.writeHead(status, {
      'content-type': 'application/json; charset=utf-8',
      'cache-control': 'no-store',
      connection: 'close',
      ...(allow ? { allow } : {}),
    });
    response.end(JSON.stringify({ error }), () => request?.destroy());
  };
  const timer = setTimeout(answer, GRACE);
  if (!request || request.complete) return answer();
  let left = LET_GO;
  request.on('data', (chunk: Buffer) => {
    left -= chunk.length;
    if (left < 0) answer();
  });
  request.once('end', answer);
  request.once('error', answer);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
