/** @type {import('next').NextConfig} */
export default {
  reactStrictMode: true,
  devIndicators: false,
  // The evaluation request carries whole scenes with their meshes.
  experimental: { serverActions: { bodySizeLimit: '64mb' } },
};
