import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { isOwnRequest } from '@/server/http';
import { ROOT } from '../support/programs';
import { BASE } from '../support/server';

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
