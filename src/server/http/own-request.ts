/**
 * Whether a request came from our own page: its Host (and Origin, if any) must be a loopback name with our port.
 * Keeps other sites and rebound names out (design 10).
 */
export function isOwnRequest(
  headers: { readonly host?: string; readonly origin?: string; readonly secFetchSite?: string },
  port: number,
): boolean {
  const own = new Set([`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`]);
  if (headers.host === undefined || !own.has(headers.host.toLowerCase())) return false;
  if (headers.secFetchSite === 'cross-site') return false;
  if (headers.origin === undefined) return true;
  return [...own].some((name) => headers.origin?.toLowerCase() === `http://${name}`);
}

/** Whether an address is text once its percent signs are resolved: no broken UTF-8, no NUL. */
export function isReadableUrl(url: string): boolean {
  try {
    return !decodeURIComponent(url).includes('\0');
  } catch {
    return false;
  }
}
