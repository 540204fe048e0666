/** The revision of a session that a page says it knows: in its address, or, as a browser does that lost a stream, in a header; null = it says none. */
export function knownRevision(request: Request): number | null {
  const said = request.headers.get('last-event-id') ?? new URL(request.url).searchParams.get('after');
  return said !== null && /^\d{1,9}$/.test(said) ? Number(said) : null;
}
