import { policy } from './src/policy.mjs';

/** Serving with reloading evaluates code as it changes; the policy is for what is built. */
const built = process.env.NODE_ENV === 'production';

/** @type {import('next').NextConfig} */
export default {
  reactStrictMode: true,
  devIndicators: false,
  poweredByHeader: false,
  // Of its own two forms one reads a file, and the other is a ring of modules; here is a third, of the same code.
  turbopack: { resolveAlias: { mikktspace: { browser: 'three/examples/jsm/libs/mikktspace.module.js' } } },
  // Types are a step of their own in the tests; starting need not wait for them.
  typescript: { ignoreBuildErrors: true },
  headers: async () => [
    // A worker goes by the policy that its script came with; pages get theirs from the proxy.
    ...(built
      ? [
          {
            source: '/:file(_next|api|examples|props)/:path*',
            headers: [{ key: 'Content-Security-Policy', value: policy("'self' 'wasm-unsafe-eval'") }],
          },
        ]
      : []),
    {
      source: '/:path*',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'no-referrer' },
        // Only a page of its own, that holds nothing of others, may share memory between its threads.
        { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
        { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
      ],
    },
  ],
};
