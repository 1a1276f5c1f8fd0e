import type { IncomingHttpHeaders } from 'node:http';
import { doorsAt, DOORS } from './doors';
import { allowedHosts, securityHeaders, turnAway } from './gate';

const HERE = 'localhost:3000';
const allowed = allowedHosts('pazienza.example, bench.example:8080');
const knock = (method: string, url: string, headers: IncomingHttpHeaders = {}) =>
  turnAway({ method, url, headers: { host: HERE, ...headers } }, allowed);
const own = { origin: `http://${HERE}` };
const ID = '00000000-0000-4000-8000-000000000000';

test.each([
  ['localhost', true],
  ['127.0.0.1:3000', true],
  ['[::1]:3000', true],
  ['LOCALHOST:8080', true],
  ['pazienza.example', true],
  ['pazienza.example:9000', true],
  ['bench.example:8080', true],
  ['bench.example', false],
  ['elsewhere.example', false],
  ['localhost.elsewhere.example', false],
  ['127.0.0.1.elsewhere.example', false],
  ['10.0.0.7', false],
  ['', false],
])('the host %s is answered: %s', (host, answered) => {
  expect(knock('GET', '/', { host }) === null).toBe(answered);
  if (!answered) expect(knock('GET', '/', { host })).toMatchObject({ status: 421 });
});

test('another host is refused before anything else is looked at', () => {
  expect(knock('BREW', '/%E0%A4%A', { host: 'elsewhere.example' })!.status).toBe(421);
});

describe('a change', () => {
  const json = { 'content-type': 'application/json', 'content-length': '2' };
  test.each([
    ['with the origin of its host', own, null],
    ['that the browser says is of the same origin', { 'sec-fetch-site': 'same-origin' }, null],
    ['without either', {}, 403],
    ['of another origin', { origin: 'http://elsewhere.example' }, 403],
    ['of the same host on another port', { origin: 'http://localhost:4000' }, 403],
    ['of nowhere', { origin: 'null' }, 403],
    ['of an origin that is none', { origin: 'x' }, 403],
    ['of another site', { ...own, 'sec-fetch-site': 'cross-site' }, 403],
    ['of a neighbour', { ...own, 'sec-fetch-site': 'same-site' }, 403],
    ['typed by hand', { 'sec-fetch-site': 'none' }, 403],
  ])('%s', (_, headers, status) => {
    expect(knock('POST', '/api/jobs', { ...json, ...headers })?.status ?? null).toBe(status);
  });

  test.each([
    ['text/plain', 415],
    ['text/plain;charset=UTF-8', 415],
    ['application/x-www-form-urlencoded', 415],
    ['multipart/form-data; boundary=x', 415],
    ['', 415],
    ['application/octet-stream', 415],
    ['application/json; charset=utf-8', null],
  ])('whose content is %s', (type, status) => {
    const headers = { ...own, 'content-length': '2', 'content-type': type };
    expect(knock('POST', '/api/jobs', headers)?.status ?? null).toBe(status);
  });

  test('larger than its door is refused by what it says of itself', () => {
    const sized = (url: string, method: string, bytes: number, type = 'application/json') =>
      knock(method, url, { ...own, 'content-type': type, 'content-length': String(bytes) })?.status ?? null;
    expect(sized('/api/jobs', 'POST', 300e6)).toBe(413);
    expect(sized('/api/jobs', 'POST', 1e6)).toBeNull();
    expect(sized(`/api/jobs/${ID}`, 'DELETE', 10)).toBe(413);
    expect(sized(`/api/intakes/${ID}?at=0`, 'PUT', 4 * 2 ** 20, 'application/octet-stream')).toBeNull();
    expect(sized(`/api/intakes/${ID}?at=0`, 'PUT', 5e6, 'application/octet-stream')).toBe(413);
    expect(sized('/api/bundles', 'POST', 600e6, 'application/zip')).toBe(413);
  });
});

test('what another site reads is refused, a link from there is not', () => {
  const cross = { 'sec-fetch-site': 'cross-site' };
  expect(knock('GET', `/api/jobs/${ID}/timeline`, cross)!.status).toBe(403);
  expect(knock('GET', '/', cross)).toBeNull();
  expect(knock('GET', `/api/jobs/${ID}/timeline`, { 'sec-fetch-site': 'none' })).toBeNull();
});

test.each([
  ['GET', '/%E0%A4%A', 400],
  ['GET', '/?search=%ff', 400],
  ['GET', '/jobs/%00', 400],
  ['GET', '/%0d%0aset-cookie:x', 400],
  ['GET', '//elsewhere.example/', 400],
  ['GET', 'http://elsewhere.example/', 400],
  ['GET', `/${'x'.repeat(9000)}`, 400],
  ['POST', '/', 405],
  ['GET', '/api/nothing', 404],
  ['GET', '/api/constructor', 404],
  ['PATCH', '/api/jobs', 405],
  ['GET', '/api/jobs', 405],
  ['HEAD', '/api/health', null],
  ['GET', '/?search=50%25+charged', null],
])('%s %s: %s', (method, url, status) => {
  const turned = knock(method, url, own);
  expect(turned?.status ?? null).toBe(status);
  if (turned) expect(turned.error).toMatch(/^[A-Z].*\.$/);
});

test('every door is found at its address, and a fixed name goes before a place for any', () => {
  for (const name of Object.keys(DOORS)) {
    const [method, pattern] = name.split(' ') as [string, string];
    expect(doorsAt(pattern.replace(/\[\w+\]/g, ID)).has(method)).toBe(true);
  }
  expect([...doorsAt('/api/recordings/clocks').keys()]).toEqual(['POST']);
});

test('every answer carries its headers, and scripts only run with the nonce', () => {
  const page = securityHeaders('abc');
  expect(page['content-security-policy']).toMatch(/script-src 'self' 'nonce-abc' 'strict-dynamic';/);
  expect(page['content-security-policy']).not.toMatch(/script-src[^;]*unsafe-inline/);
  for (const headers of [page, securityHeaders(null)]) {
    expect(headers['content-security-policy']).toMatch(/frame-ancestors 'none'/);
    expect(Object.keys(headers)).toEqual(
      expect.arrayContaining(['x-content-type-options', 'referrer-policy', 'permissions-policy']),
    );
  }
});
