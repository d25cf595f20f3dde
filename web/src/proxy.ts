import { NextResponse, type NextRequest } from 'next/server';
import { hostIsKnown } from './http/origin';

/** Gives every page its own nonce and a Content-Security-Policy that allows nothing but the application itself. */
export function proxy(request: NextRequest): NextResponse {
  if (!hostIsKnown(request.headers)) return new NextResponse('Umbo does not answer under this host name.', { status: 421 });
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString('base64');
  const dev = process.env.NODE_ENV === 'development';
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${dev ? " 'unsafe-eval'" : ''}`,
    dev ? "style-src 'self' 'unsafe-inline'" : `style-src 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    `connect-src 'self'${dev ? ' ws:' : ''}`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

export const config = {
  // Not for route handlers: Next would buffer their bodies and cut them at 10 MB.
  matcher: ['/((?!api/|_next/static|_next/image|icon.svg|favicon.ico).*)'],
};
