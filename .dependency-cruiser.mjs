import { existsSync, readdirSync } from 'node:fs';

/**
 * The parts of src/ depend one way: each only on those after it in this list. The engine and what is above it
 * know the built-in meshes; the core knows nothing but itself.
 */
const ORDER = ['app', 'ui', 'view', 'store', 'cli', 'engine', 'demo', 'words', 'core'];
const CORE = ['formats', 'evaluate', 'scene', 'arrange', 'mesh', 'curve', 'light', 'math'];

const ARRANGE = 'src/core/arrange';
const KINDS = readdirSync(ARRANGE).filter((name) => existsSync(`${ARRANGE}/${name}/kind.ts`));
const IN_A_KIND = `^${ARRANGE}/(${KINDS.join('|')})/`;

/** Each part depends on those after it only: types too, tests aside (they may make a whole scene). */
const downwards = (order, root) =>
  order.slice(1).map((part, i) => ({
    name: `${part}-looks-up`,
    comment: `${root}${part} must not depend on what is built on top of it`,
    severity: 'error',
    from: { path: `^${root}${part}/`, pathNot: '\\.test\\.ts$' },
    to: { path: `^${root}(${order.slice(0, i + 1).join('|')})/` },
  }));

export default {
  forbidden: [
    ...downwards(ORDER, 'src/'),
    ...downwards(CORE, 'src/core/'),
    {
      name: 'core-without-interface',
      severity: 'error',
      comment: 'The core has no interface code and runs anywhere',
      from: { path: '^src/core/' },
      to: { path: 'node_modules/(react|next|three|@react-three|dexie|zustand|comlink|@headlessui)' },
    },
    {
      name: 'kinds-by-the-registry',
      comment: 'What is in the core of one kind of arrangement, others know through the registry alone',
      severity: 'error',
      from: {
        path: '^src/core/',
        pathNot: [IN_A_KIND, `^${ARRANGE}/registry\\.ts$`, '\\.test\\.ts$', '^src/core/testing/'],
      },
      to: { path: IN_A_KIND },
    },
    {
      name: 'kinds-apart',
      comment: 'Kinds do not know each other: what they share stands in arrange/steps, or below',
      severity: 'error',
      from: { path: `^${ARRANGE}/(${KINDS.join('|')})/`, pathNot: '\\.test\\.ts$' },
      to: { path: IN_A_KIND, pathNot: `^${ARRANGE}/$1/` },
    },
    {
      name: 'no-rings',
      severity: 'error',
      from: { path: '^src' },
      to: { circular: true },
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
