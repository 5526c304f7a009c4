/**
 * The parts of src/ depend one way: each only on those after it in this list. The engine and what is above it
 * know the built-in meshes; the core knows nothing but itself.
 */
const ORDER = ['app', 'ui', 'view', 'store', 'cli', 'engine', 'demo', 'core'];
const CORE = ['formats', 'evaluate', 'arrange', 'scene', 'mesh', 'curve', 'math'];

const upward = (part, i) => ({
  name: `${part}-looks-up`,
  comment: `src/${part} must not depend on what is built on top of it`,
  severity: 'error',
  from: { path: `^src/${part}/` },
  to: { path: `^src/(${ORDER.slice(0, i).join('|')})/` },
});

module.exports = {
  forbidden: [
    ...ORDER.map(upward).slice(1),
    {
      name: 'core-without-interface',
      severity: 'error',
      comment: 'The core has no interface code and runs anywhere',
      from: { path: '^src/core/' },
      to: { path: 'node_modules/(react|next|three|@react-three|dexie|zustand|comlink|@headlessui)' },
    },
    {
      name: 'math-and-curve-below',
      severity: 'error',
      comment: 'Vectors and curves know no arrangements, results or files (types of the document aside)',
      from: { path: '^src/core/(math|curve)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/(formats|evaluate|arrange)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'formats-on-top',
      severity: 'error',
      comment: 'Nothing else in the core reads or writes files',
      from: { path: `^src/core/(${CORE.slice(1).join('|')})/`, pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/formats/' },
    },
    {
      name: 'no-rings',
      severity: 'error',
      from: { path: '^src' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'tests-stay-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.ts$|/testing/)' },
      to: { path: '(\\.test\\.ts$|/testing/)' },
    },
    {
      name: 'declared',
      severity: 'error',
      from: { path: '^src' },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'unknown'] },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      mainFields: ['module', 'main', 'types'],
    },
  },
};
