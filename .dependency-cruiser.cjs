const inside = (folder) => `^core/src/${folder}/`;
const stage = '^core/src/(intake|shape|rig|motion|wiring)/';

/** The layers of web/src, the highest first: nothing reaches into one above its own. Files beside the folders are for all. */
const LAYERS = [
  ['app'],
  ['workspace', 'shelf', 'rulebook-pages'],
  ['stages'],
  ['trials'],
  ['strip', 'bench', 'parts', 'ledger', 'history', 'card'],
  ['panels'],
  ['session'],
  ['theme'],
];
const webLayers = LAYERS.slice(1).map((layer, i) => ({
  name: `web-${layer[0]}-knows-nothing-above`,
  severity: 'error',
  from: { path: `^web/src/(${layer.join('|')})/`, pathNot: '\\.test\\.tsx?$' },
  to: {
    path: `^web/src/(${LAYERS.slice(0, i + 1)
      .flat()
      .join('|')})/`,
  },
}));

/** Dependencies point one way; see docs/how-it-works.md. */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    { name: 'no-circles-of-types', severity: 'error', from: { path: '^(core|web)/src/' }, to: { circular: true } },
    ...webLayers,
    { name: 'core-alone', severity: 'error', from: { path: '^core/' }, to: { path: '^(web|cli|demo|e2e|rulebooks)/' } },
    {
      name: 'core-has-no-interface',
      severity: 'error',
      from: { path: '^core/', pathNot: '^core/src/oracles/' },
      to: { path: 'node_modules/(react|react-dom|next|three|@mui|pg|drizzle-orm)/' },
    },
    { name: 'document-below-all', severity: 'error', from: { path: inside('document') }, to: { path: '^core/src/(?!document/)' } },
    {
      name: 'geometry-on-document',
      severity: 'error',
      from: { path: inside('geometry') },
      to: { path: '^core/src/(?!geometry/|document/)' },
    },
    {
      name: 'formula-on-document',
      severity: 'error',
      from: { path: inside('formula'), pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(?!formula/|document/)' },
    },
    {
      name: 'stages-apart',
      comment:
        'A stage folder uses document, geometry and formula alone; rig may use shape (it turns axes and takes parts out as Shape does), and grounds that and what plays.',
      severity: 'error',
      from: { path: stage, pathNot: ['\\.test\\.ts$', '^core/src/rig/'] },
      to: { path: '^core/src/(?!document/|geometry/|formula/)', pathNot: '^core/src/$1/' },
    },
    {
      name: 'rig-on-shape',
      severity: 'error',
      from: { path: inside('rig'), pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(?!document/|geometry/|shape/|rig/)' },
    },
    {
      name: 'behaviour-on-clips',
      severity: 'error',
      from: { path: inside('behaviour'), pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(?!document/|geometry/|formula/|motion/|behaviour/)' },
    },
    {
      name: 'grounds-on-what-plays',
      severity: 'error',
      from: { path: inside('grounds'), pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(?!document/|geometry/|motion/|shape/|grounds/)' },
    },
    { name: 'rulebook-below', severity: 'error', from: { path: inside('rulebook') }, to: { path: '^core/src/(operations|ship|trial)/' } },
    { name: 'ship-below-trial', severity: 'error', from: { path: inside('ship') }, to: { path: '^core/src/(operations|trial)/' } },
    {
      name: 'through-the-door',
      comment: "Nothing reaches into another subject's inside: use its index.ts.",
      severity: 'error',
      from: { path: '^core/src/([^/]+)/', pathNot: ['\\.test\\.ts$', '^core/src/oracles/'] },
      to: { path: '^core/src/([^/]+)/.+', pathNot: ['^core/src/$1/', '^core/src/[^/]+/index\\.ts$'] },
    },
    {
      name: 'oracles-for-tests',
      comment: 'Other ways to work things out are there to be held against core, not to be used by it.',
      severity: 'error',
      from: { path: '^(core|web|cli|demo)/', pathNot: ['\\.test\\.ts$', '^core/src/oracles/'] },
      to: { path: '^core/src/oracles/' },
    },
    {
      name: 'core-by-its-index',
      severity: 'error',
      from: { path: '^(web|demo|cli)/' },
      to: { path: '^core/src/', pathNot: ['^core/src/[^/]+/index\\.ts$'] },
    },
    {
      name: 'node-parts-for-node',
      comment: 'What needs Node stays out of what runs in the page.',
      severity: 'error',
      from: { path: '^(core/src|web/src/(?!server/)|demo)/' },
      to: { path: '^core/node/' },
    },
    { name: 'routes-are-thin', severity: 'error', from: { path: '^web/src/(?!app/)' }, to: { path: '^web/src/app/' } },
    {
      name: 'server-stays-on-the-server',
      severity: 'error',
      // What Next starts on the server is of the server: the proxy, and what runs once at the start.
      from: { path: '^web/src/(?!app/api|server/|proxy\\.ts|instrumentation\\.ts)', pathNot: '\\.test\\.ts$' },
      to: { path: '^web/src/server/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    // Tests go in by every door.
    exclude: { path: '\\.test\\.ts$|^core/src/tests/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
