/**
 * The library for solids is an ECMAScript module that asks where it lies; Jest's sandbox runs none. This says it in the
 * words of CommonJS, and changes nothing else.
 */
module.exports = {
  process: (source, path) => ({
    // It has a `require` of its own, which hides the sandbox's within it.
    code: `const sandboxRequire = require;${source}`
      .replaceAll('import.meta.url', JSON.stringify(`file://${path}`))
      .replaceAll(/await import\("(node:[a-z]+)"\)/g, 'sandboxRequire("$1")')
      .replace(/export default ?(\w+)/, 'module.exports = $1'),
  }),
};
