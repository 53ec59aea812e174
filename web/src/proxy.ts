import { NextResponse, type NextRequest } from 'next/server';
import { hostAllowed, wordsOfForeignHost } from './server/hosts';

const isDevelopment = process.env.NODE_ENV === 'development';

/**
 * Pages answer to the names of this machine alone, and run only scripts that the server itself has marked (CSP level 3, nonces). Routes of
 * the API have their own check, and the headers of next.config.ts.
 */
export function proxy(request: NextRequest): NextResponse {
  if (request.nextUrl.pathname.startsWith('/api/')) return unknownName();
  const host = request.headers.get('host') ?? '';
  if (!hostAllowed(host))
    return new NextResponse(wordsOfForeignHost(host), { status: 403, headers: { 'content-type': 'text/plain; charset=utf-8' } });
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const policy = [
    "default-src 'self'",
    // Wasm: simplifying meshes and Draco. Hot reloading while developing evaluates text.
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "media-src 'self' blob:",
    "connect-src 'self' blob: data:",
    "worker-src 'self' blob:",
    "font-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  return response;
}

/** No route of the API has a name with anything to be decoded in it; what can't be decoded would break the router. */
function unknownName(): NextResponse {
  const detail = 'There is nothing of that name here. Go back to the shelf.';
  const problem = { type: 'urn:itchkit:not-found', title: 'Not found', status: 404, code: 'not-found', detail, where: null };
  return new NextResponse(JSON.stringify(problem), { status: 404, headers: { 'content-type': 'application/problem+json' } });
}

// Bodies of uploads do not pass through here: they would be copied.
export const config = { matcher: ['/api/(.*%.*)', '/((?!api/|_next/static|_next/image|favicon.ico|mark.svg).*)'] };
