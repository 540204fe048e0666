// The one direction of dependencies (docs/architecture.md). tests/checks/dependency-rule.test.ts plants faults to prove it bites.
const domains = [
  'units',
  'dsp',
  'audio',
  'time',
  'analysis',
  'naming',
  'findings',
  'session',
  'arrange',
  'tidy',
  'matching',
  'style',
  'tempo',
  'sections',
  'takes',
  'comp',
  'conform',
  'render',
  'balance',
  'delivery',
];
const upward = domains.map((domain, i) => ({
  name: `core-order-${domain}`,
  severity: 'error',
  from: { path: `^src/core/${domain}/` },
  to: { path: `^src/core/(${domains.slice(i + 1).join('|') || 'none'})/` },
}));
const layer = (name, from, allowed) => ({
  name: `layer-${name}`,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^src/', pathNot: allowed },
});
/** Packages that only compute: no files, network, clock or page. */
const PURE = '^(node_modules/(re2js|any-ascii|culori|@types/culori|yup|fractional-indexing)/|any-ascii$)';

module.exports = {
  forbidden: [
    ...upward,
    {
      name: 'core-known-domain',
      severity: 'error',
      from: { path: '^src/' },
      to: { path: '^src/core/', pathNot: `^src/core/(${domains.join('|')})/` },
    },
    {
      name: 'core-pure',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: ['^src/core/', PURE] },
    },
    {
      name: 'core-through-index',
      severity: 'error',
      from: { path: '^src/core/([^/]+)/' },
      to: { path: '^src/core/[^/]+/', pathNot: ['^src/core/$1/', '^src/core/[^/]+/index\\.ts$'] },
    },
    {
      name: 'core-from-outside-through-index',
      severity: 'error',
      from: { path: '^src/(?!core/)' },
      to: { path: '^src/core/', pathNot: '^src/core/[^/]+/index\\.ts$' },
    },
    layer('contracts', '^src/contracts/', '^src/(core|contracts)/'),
    layer('engine', '^src/engine/', '^src/(core|contracts|engine)/'),
    layer('server', '^src/server/', '^src/(core|contracts|engine|server)/'),
    layer('worker', '^src/worker/', '^src/(core|contracts|engine|server|worker)/'),
    layer('cli', '^src/cli/', '^src/(core|contracts|engine|cli)/'),
    layer('ui', '^src/ui/', '^src/(core|contracts|ui)/'),
    layer('app', '^src/app/', '^src/(contracts|server/services|server/http|ui|app)/'),
    {
      name: 'db-only-from-server',
      severity: 'error',
      from: { pathNot: '^src/(server|worker)/' },
      to: { path: '^src/server/db/' },
    },
    {
      name: 'features-apart',
      severity: 'error',
      from: { path: '^src/ui/features/([^/]+)/' },
      to: { path: '^src/ui/features/', pathNot: '^src/ui/features/$1/' },
    },
    {
      name: 'kit-below-features',
      severity: 'error',
      from: { path: '^src/ui/(kit|client|close-look|folders|listening|notes|strips)/' },
      to: { path: '^src/ui/(features|shell)/' },
    },
    {
      name: 'no-value-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    exclude: { path: '\\.css$' },
  },
};
