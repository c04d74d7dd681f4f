const { join } = require('node:path');
/** Tests may look over the fence: they check that two rooms fit together. */
const tests = '\\.test\\.ts$|/testing/';
const layer = (name, from, to) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: tests },
  to: { path: to },
});

/** The layers of the house: imports run downward only, and through the doors. */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    layer('core-is-alone', '^packages/core/', '^packages/(?!core/)'),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^packages/core/', pathNot: '\\.test\\.ts$|/testing/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-knows-no-page',
      severity: 'error',
      from: { path: '^packages/core/' },
      to: { path: '^node_modules/(vue|prosemirror-view|fastify|sequelize)' },
    },
    layer('contracts-above-core', '^packages/contracts/', '^packages/(intake|press|server|web)/'),
    layer('intake-beside-press', '^packages/intake/', '^packages/(press|server|web|contracts)/'),
    layer('press-beside-intake', '^packages/press/', '^packages/(intake|server|web|contracts)/'),
    layer('server-without-web', '^packages/server/', '^packages/web/'),
    layer('web-without-server', '^packages/web/', '^packages/(server|intake|press)/'),
    {
      name: 'stages-stand-alone',
      comment: 'What several screens share is below them: in sheet, bench, editor or parts.',
      severity: 'error',
      from: { path: '^packages/web/stages/([^/]+)/' },
      to: { path: '^packages/web/stages/', pathNot: '^packages/web/stages/$1/' },
    },
    layer('web-below-stages', '^packages/web/(sheet|bench|editor|parts)/', '^packages/web/stages/'),
    layer('web-below-sheet', '^packages/web/(bench|editor|parts)/', '^packages/web/sheet/'),
    {
      name: 'packages-declare-what-they-use',
      severity: 'error',
      from: { path: '^packages/', pathNot: tests },
      to: {
        dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'undetermined'],
        pathNot: '^packages/',
      },
    },
    ...['core', 'press'].map((name) => ({
      name: `through-the-doors-of-${name}`,
      comment: 'The scripts of help sites are built on their own, from single files.',
      severity: 'error',
      from: { path: `^packages/${name}/([^/]+)/`, pathNot: `${tests}|/site/client/` },
      to: {
        path: `^packages/${name}/([^/]+)/`,
        pathNot: `^packages/${name}/($1/|node_modules/|[^/]+/index\\.ts$)`,
      },
    })),
    {
      name: 'sql-stays-in-data',
      severity: 'error',
      from: { path: '^packages/server/(http|jobs)/', pathNot: '\\.test\\.ts$|queue\\.ts$' },
      to: { path: '^node_modules/(sequelize|pg)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|built)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: join(__dirname, 'tsconfig.json') },
    enhancedResolveOptions: {
      conditionNames: ['source', 'import', 'require', 'node', 'default'],
      exportsFields: ['exports'],
    },
  },
};
