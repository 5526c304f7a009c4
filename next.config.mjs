/** @type {import('next').NextConfig} */
export default {
  reactStrictMode: true,
  devIndicators: false,
  // Types are a step of their own in the tests; starting need not wait for them.
  typescript: { ignoreBuildErrors: true },
};
