/** The first look at a request, before any work: which host it asks for, where it comes from, and whether there is such a door. */

import type { IncomingHttpHeaders } from 'node:http';
import { doorsAt, mostBytes, tooLarge } from './doors';

export interface Knock {
  method: string;
  /** As it came: path and query. */
  url: string;
  headers: IncomingHttpHeaders;
}

export interface Turned {
  status: number;
  error: string;
  /** Methods that are allowed, for 405. */
  allow?: string;
}

/** Names of this machine to itself. */
const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const WRITES = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);
/** Contents that a page of any site may send without asking. */
const SIMPLE = /^(application\/x-www-form-urlencoded|multipart\/form-data|text\/plain)\b/i;
const LONGEST_URL = 8192;

/** Hosts that are answered: loopback on any port, and what PAZIENZA_HOSTS names (`host` or `host:port`, with commas between). */
export function allowedHosts(configured = process.env.PAZIENZA_HOSTS ?? ''): (host: string) => boolean {
  const named = new Set(
    configured
      .split(',')
      .map((one) => one.trim().toLowerCase())
      .filter((one) => one !== ''),
  );
  return (host) => {
    const lower = host.toLowerCase();
    const name = lower.replace(/:\d{1,5}$/, '');
    return LOOPBACK.includes(name) || named.has(lower) || named.has(name);
  };
}

/** @returns why it is turned away; null when it may come in */
export function turnAway({ method, url, headers }: Knock, allowed: (host: string) => boolean): Turned | null {
  const host = headers.host;
  if (!host || !allowed(host))
    return {
      status: 421,
      error: `This server does not answer for the host “${(host ?? '').slice(0, 100)}”. Whoever runs it can allow it in PAZIENZA_HOSTS.`,
    };
  if (!url.startsWith('/') || url.startsWith('//') || url.length > LONGEST_URL || !isReadable(url))
    return {
      status: 400,
      error: 'The address cannot be read: it is too long, or not encoded as it should be.',
    };
  const path = decodeURIComponent(url.split('?')[0]!);
  const writes = WRITES.has(method);
  if (!path.startsWith('/api/'))
    return method === 'GET' || method === 'HEAD'
      ? null
      : { status: 405, error: 'Pages can only be read.', allow: 'GET, HEAD' };

  const site = headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && (writes || site !== 'none'))
    return { status: 403, error: 'This request came from another site and was refused.' };
  if (writes && site !== 'same-origin' && originHost(headers.origin) !== host.toLowerCase())
    return {
      status: 403,
      error: 'A change has to come from a page of Pazienza: the request does not say that it does.',
    };

  const doors = doorsAt(path);
  if (doors.size === 0) return { status: 404, error: 'There is nothing at this address.' };
  const door = doors.get(method === 'HEAD' ? 'GET' : method);
  if (!door) {
    const allow = [...doors.keys()].join(', ');
    return { status: 405, error: `This address takes ${allow} only.`, allow };
  }
  if (!writes) return null;
  const length = headers['content-length'];
  const hasBody = (length !== undefined && length !== '0') || headers['transfer-encoding'] !== undefined;
  if (!hasBody) return null;
  const type = headers['content-type'] ?? '';
  const wanted = door.json ? 'application/json' : 'application/octet-stream';
  if (type === '' || SIMPLE.test(type) || (door.json && !/^application\/json\b/i.test(type)))
    return { status: 415, error: `What is sent here has to be marked as ${wanted}.` };
  const most = mostBytes(door);
  return Number(length ?? 0) > most ? { status: 413, error: tooLarge(most) } : null;
}

/** Whether the percent-encoding of an address holds text, without what no address has. */
function isReadable(url: string): boolean {
  try {
    return !/[\u0000-\u001f\u007f]/.test(decodeURIComponent(url.replace(/\+/g, ' ')));
  } catch {
    return false;
  }
}

function originHost(origin: string | undefined): string | null {
  try {
    return origin ? new URL(origin).host.toLowerCase() : null;
  } catch {
    return null;
  }
}

/** Headers of every answer. @param nonce of the page's scripts; null for what is no page */
export function securityHeaders(nonce: string | null): Record<string, string> {
  const policy = nonce
    ? [
        "default-src 'self'",
        `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "font-src 'self'",
        "connect-src 'self'",
        "worker-src 'self' blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ]
    : ["default-src 'none'", "frame-ancestors 'none'"];
  return {
    'content-security-policy': policy.join('; '),
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'permissions-policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=()',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'x-frame-options': 'DENY',
  };
}
