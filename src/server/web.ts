import { randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import next from 'next';
import { isOwnRequest, isReadableUrl } from './http/own-request';

/** How long a connection stays open for another request, and how much less of it is promised. */
const KEPT_SECONDS = 75;
const KEPT_MARGIN_SECONDS = 15;

/** Entry of the web process: Next behind a gate that refuses foreign hosts and origins on every route. */
async function main(): Promise<void> {
  const port = Number(process.env.PORT ?? 4610);
  const hostname = '127.0.0.1';
  const app = next({ dev: false, dir: process.env.FERNMOSS_ROOT ?? process.cwd(), hostname, port });
  await app.prepare();
  const serve = app.getRequestHandler();
  const server = createServer((request, response) => {
    const { host, origin } = request.headers;
    const site = request.headers['sec-fetch-site'];
    if (!isOwnRequest({ host, origin, secFetchSite: typeof site === 'string' ? site : undefined }, port)) {
      response
        .writeHead(403, { 'content-type': 'application/json' })
        .end(JSON.stringify({ fault: { code: 'request.foreign_origin' } }));
      return;
    }
    if (!isReadableUrl(request.url ?? '')) {
      response
        .writeHead(400, { 'content-type': 'application/json' })
        .end(JSON.stringify({ fault: { code: 'request.invalid', issues: ['the address is not readable'] } }));
      return;
    }
    // Clients leave a connection earlier than we close it: none is closed just as it is used.
    response.setHeader('Connection', 'keep-alive');
    response.setHeader('Keep-Alive', `timeout=${KEPT_SECONDS - KEPT_MARGIN_SECONDS}`);
    // Next puts this nonce on its own inline scripts when it sees the policy on the request.
    const policy = contentPolicy(randomBytes(16).toString('base64'));
    request.headers['content-security-policy'] = policy;
    response.setHeader('Content-Security-Policy', policy);
    void serve(request, response);
  });
  server.requestTimeout = 0; // uploads of hours are fine
  server.keepAliveTimeout = 1000 * KEPT_SECONDS;
  server.listen(port, hostname, () => {
    process.send?.('ready');
    console.log(`web ready on ${port}`);
  });
  const stop = (): void => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 2000).unref();
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
  process.once('disconnect', stop);
}

const contentPolicy = (nonce: string): string =>
  [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    `style-src 'self' 'unsafe-inline'`,
    `img-src 'self' data:`,
    `font-src 'self'`,
    `connect-src 'self'`,
    `worker-src 'self' blob:`,
    `frame-ancestors 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
  ].join('; ');

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
