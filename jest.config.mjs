/** Unit tests of everything that needs no browser. SWC compiles them; no type checks here (tsc does those). */
export default {
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/src/core/testing/setup.ts'],
  // One for each core: nothing else runs beside them.
  maxWorkers: '100%',
  // In Jest's sandbox a global is looked up some 200 times slower than outside; those handed in are not.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Float32Array',
    'Float64Array',
    'Int32Array',
    'Uint8Array',
    'Uint32Array',
    'Uint16Array',
    'Int8Array',
    'Int16Array',
    'Array',
    'Object',
    'Map',
    'Set',
    'WeakMap',
    'Symbol',
    'Infinity',
  ],
  // A loaded machine may take several times as long as a free one.
  testTimeout: 60_000,
  // The worker protocol leaves message ports open that only garbage collection closes.
  forceExit: true,
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '^manifold-3d$': '<rootDir>/node_modules/manifold-3d/manifold.js',
  },
  transform: {
    'manifold-3d/manifold\\.js$': '<rootDir>/jest.manifold.cjs',
    '^.+\\.(ts|tsx|js|mjs)$': ['next/dist/build/swc/jest-transformer.js', {}],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(three|@gltf-transform|property-graph|ktx-parse|three-mesh-bvh|comlink|dexie|immer|@noble|meshoptimizer|fflate|manifold-3d|earcut)/)',
  ],
};
