import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { isOwnRequest } from '@/server/http';
import { ROOT } from '../support/programs';
import { BASE, newSession } from '../support/server';

const PORT = Number(new URL(BASE || 'http://127.0.0.1:1').port);
const NO_ID = '00000000-0000-4000-8000-000000000000';

/** Every route there is, read from the folders, with the methods it exports. */
function routes(): { path: string; method: string }[] {
  const base = join(ROOT, 'src/app');
  return readdirSync(base, { recursive: true, encoding: 'utf8' }).flatMap((file) => {
    const path =
      `/${file}`
        .replace(/\/(route|page)\.tsx?$/, '')
        .replace(/\[\[\.\.\.\w+\]\]/, 'x')
        .replace(/\[\w+\]/, NO_ID) || '/';
    if (/\/page\.tsx$/.test(`/${file}`)) return [{ path, method: 'GET' }];
    if (!/\/route\.ts$/.test(file)) return [];
    const text = readFileSync(join(base, file), 'utf8');
    return ['GET', 'POST', 'PUT', 'PATCH', 'DELETE', 'HEAD', 'OPTIONS']
      .filter((m) => new RegExp(`export const ${m}\\b|as ${m}\\b`).test(text))
      .map((method) => ({ path, method }));
  });
}

/** fetch sets Host and Origin itself: ask by hand. */
const ask = (
  path: string,
  method: string,
  headers: Record<string, string>,
): Promise<{ status: number; headers: Record<string, unknown>; body: string }> =>
  new Promise((resolve, reject) => {
    const r = request({ host: '127.0.0.1', port: PORT, path, method, headers }, (response) => {
      let body = '';
      response.on('data', (part: Buffer) => {
        body += String(part);
      });
      response.on('end', () =>
        resolve({ status: response.statusCode ?? 0, headers: response.headers, body }),
      );
    });
    r.on('error', reject);
    r.end();
  });

it('walks all routes: a foreign Host or Origin is refused everywhere', async () => {
  const all = routes();
  expect(all.length).toBeGreaterThan(20);
  for (const { path, method } of [
    ...all,
    { path: '/fern.svg', method: 'GET' },
    { path: '/_next/static/x.js', method: 'GET' },
  ]) {
    const foreign: Record<string, string>[] = [
      { host: 'evil.example' },
      { host: `evil.example:${PORT}` },
      { host: `127.0.0.1:${PORT + 1}` },
      { host: `127.0.0.1:${PORT}`, origin: 'http://evil.example' },
      { host: `127.0.0.1:${PORT}`, origin: `http://127.0.0.1:${PORT + 1}` },
      { host: `127.0.0.1:${PORT}`, origin: 'null' },
      { host: `127.0.0.1:${PORT}`, 'sec-fetch-site': 'cross-site' },
    ];
    for (const headers of foreign)
      expect([method, path, headers, (await ask(path, method, headers)).status]).toEqual([
        method,
        path,
        headers,
        403,
      ]);
  }
});

it('lets our own page through under each loopback name', async () => {
  for (const name of ['127.0.0.1', 'localhost', '[::1]'])
    expect(
      (await ask('/api/sessions', 'GET', { host: `${name}:${PORT}`, origin: `http://${name}:${PORT}` }))
        .status,
    ).toBe(200);
});

it('sends the headers that harden a page', async () => {
  const { headers, body } = await ask('/', 'GET', { host: `127.0.0.1:${PORT}` });
  const policy = String(headers['content-security-policy']);
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(policy.split(';').find((p) => p.trim().startsWith('script-src'))).not.toContain('unsafe-inline');
  expect(headers).toMatchObject({
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-embedder-policy': 'require-corp',
    'referrer-policy': 'no-referrer',
  });
  expect(headers['x-powered-by']).toBeUndefined();
  // Every inline script carries the nonce, or the browser would not run it.
  const nonce = /'nonce-([^']+)'/.exec(policy)?.[1] ?? '';
  for (const tag of body.match(/<script(?![^>]*\ssrc=)[^>]*>/g) ?? []) expect(tag).toContain(nonce);
});

it('decides by Host, Origin and fetch site alone', () => {
  expect(isOwnRequest({}, 80)).toBe(false);
  expect(isOwnRequest({ host: 'LOCALHOST:80' }, 80)).toBe(true);
  expect(isOwnRequest({ host: 'localhost:80', secFetchSite: 'same-origin' }, 80)).toBe(true);
  expect(isOwnRequest({ host: 'localhost:80', origin: 'https://localhost:80' }, 80)).toBe(false);
  expect(isOwnRequest({ host: 'localhost:80.evil.example' }, 80)).toBe(false);
});

describe('whatever is asked is answered in kind', () => {
  const long = 'x'.repeat(3000);
  const ids = [
    NO_ID,
    'constructor',
    '__proto__',
    '%00',
    'a%00b',
    '%F0%9F%98%80',
    '%ED%A0%80',
    '..%2F..%2Fetc%2Fpasswd',
    "1'%20or%20'1'='1",
    long,
  ];
  const queries = [
    '',
    '?version=1e999',
    '?version=-1',
    '?path=%00',
    '?path=..%2F..',
    '?revision=99999999999999999999',
  ];
  const bodies: unknown[] = [
    undefined,
    null,
    [],
    'text',
    1,
    {},
    { edits: [{ kind: 'constructor' }], label: 'x', baseRevision: 0 },
    { edits: [{ kind: 'folder.remove', id: 'constructor' }], label: 'x', baseRevision: 0 },
    { name: 'a\0b' },
    { name: '\ud83d' },
    { keys: Array(2000).fill('x') },
    { pieces: [{ sound: '../x', from: -1, count: 1e9 }] },
    { recordings: [NO_ID, 'x'], framesPerEntry: 1e300 },
    { revision: 2 ** 60, baseRevision: -1 },
    { folder: '/proc/self/environ', contents: 'played' },
  ];
  const answered = async (path: string, method: string, body?: unknown): Promise<void> => {
    const abort = AbortSignal.timeout(20_000);
    const response = await fetch(BASE + path, {
      method,
      signal: abort,
      ...(body === undefined || method === 'GET' || method === 'HEAD'
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    });
    const what = `${method} ${path.slice(0, 120)} ${JSON.stringify(body) ?? ''}`;
    expect([what, response.status < 500]).toEqual([what, true]);
    const text = response.headers.get('content-type')?.includes('event-stream') ? '' : await response.text();
    if (path.startsWith('/api/') && !path.startsWith('/api/uploads') && response.status >= 400 && text !== '')
      expect([what, text.slice(0, 300)]).toEqual([what, expect.stringContaining('"fault":{"code":"')]);
    // What lies where on this machine is nobody's business.
    for (const inside of [ROOT, process.env.FERNMOSS_DATA ?? ROOT])
      expect([what, text.includes(inside)]).toEqual([what, false]);
    await response.body?.cancel().catch(() => undefined);
  };
  it('ids and queries', async () => {
    for (const { path, method } of routes().filter((r) => r.method !== 'OPTIONS'))
      for (const id of path.includes(NO_ID) ? ids : [''])
        for (const query of method === 'GET' ? queries : [''])
          await answered(path.replace(NO_ID, id) + query, method, method === 'POST' ? {} : undefined);
  });
  it('bodies, of unknown and of known sessions', async () => {
    const id = await newSession('Hostile bodies');
    for (const { path, method } of routes().filter((r) => r.method === 'POST' && r.path.startsWith('/api/')))
      for (const known of path.startsWith('/api/sessions/') ? [NO_ID, id] : [NO_ID])
        for (const body of bodies) await answered(path.replace(NO_ID, known), method, body);
  });
});
