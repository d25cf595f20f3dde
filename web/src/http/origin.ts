/** Names under which the application answers: loopback, and what UMBO_HOSTS adds (comma-separated, without port). */
const known = new Set(['127.0.0.1', 'localhost', '[::1]', ...(process.env.UMBO_HOSTS ?? '').split(',').filter(Boolean)]);

/** Guards against names that someone else points at this machine. */
export function hostIsKnown(headers: Headers): boolean {
  return known.has((headers.get('host') ?? '').replace(/:\d+$/, ''));
}

/** Whether a browser says that a page from somewhere else asks: even reading is work, which only our own pages may ask for. */
export function isForeign(headers: Headers): boolean {
  const site = headers.get('sec-fetch-site');
  return site === 'cross-site' || site === 'same-site';
}

/** Whether a write comes from a page of this application: browsers send Origin with every write. */
export function isSameOrigin(headers: Headers): boolean {
  const origin = headers.get('origin');
  if (!origin || !URL.canParse(origin)) return false;
  return new URL(origin).host === headers.get('host');
}
