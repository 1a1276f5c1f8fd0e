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

/** A connection on which nothing moves for so long is ended, and with it what was being given out, ms. */
const IDLE = 120_000;

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
  server.headersTimeout = 30_000;
  // A part of a log has ten minutes to arrive.
  server.requestTimeout = 600_000;
  server.setTimeout(IDLE);
  server.maxHeadersCount = 100;
  server.on('clientError', (_, socket) => {
    const body = JSON.stringify({ error: 'The request cannot be read.' });
    if (socket.writable)
      socket.end(
        `HTTP/1.1 400 Bad Request\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: ${body.length}\r\n\r\n${body}`,
      );
  });
  server.listen(port, hostname);
  const end = () => {
    server.close();
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 200);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end);
}

/** How long the one who was turned away has to read why, ms. */
const GRACE = 1000;

/** Turned away before any work: what still comes is let go. */
function turned(response: ServerResponse, { status, error, allow }: Turned, request?: IncomingMessage): void {
  if (response.headersSent) return void response.end();
  response.writeHead(status, {
    'content-type': 'application/json; charset=utf-8',
    'cache-control': 'no-store',
    connection: 'close',
    ...(allow ? { allow } : {}),
  });
  response.end(JSON.stringify({ error }));
  if (!request || request.complete) return;
  request.resume();
  setTimeout(() => request.destroy(), GRACE);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
