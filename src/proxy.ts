import { NextResponse, type NextRequest } from 'next/server';
import { policy } from './policy.mjs';

/** Serving with reloading evaluates code as it changes; the policy is for what is built. */
const built = process.env.NODE_ENV === 'production';

/** Gives every page a word of its own: only scripts that carry it run, and those that they load. */
export function proxy(request: NextRequest): NextResponse {
  if (!built) return NextResponse.next();
  const nonce = btoa(crypto.randomUUID());
  const value = policy(`'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`);
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  // The framework reads the word out of this, and puts it on its own scripts.
  headers.set('Content-Security-Policy', value);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', value);
  return response;
}

/** Pages as documents: what is fetched to go from page to page is data. Files have a policy that is always the same. */
export const config = {
  matcher: [
    {
      source: '/((?!_next/|api/|examples/|props/).*)',
      missing: [
        { type: 'header', key: 'rsc' },
        { type: 'header', key: 'next-router-prefetch' },
      ],
    },
  ],
};
