/** Arrows run downwards only: inside core a folder uses only itself and the folders above it in this list. */
const folders = [
  'units',
  'geometry',
  'solids',
  'drafting',
  'words',
  'stock',
  'dieline',
  'design',
  'mechanisms',
  'motion',
  'sheets',
  'cutting',
  'checks',
  'formats',
  'assembly',
  'planning',
  'practice',
];
module.exports = {
  forbidden: [
    {
      name: 'no-circular',
      severity: 'error',
      from: {}, // Types that are inferred from a schema run back to it; at run time there is no circle.
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: ['^web/', 'node_modules/(react|react-dom|three|astro|drizzle-orm|@libsql|@mantine)'] },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'server-stays-on-the-server',
      severity: 'error',
      from: { path: '^web/src/(places|shared|workers)' },
      to: { path: '^web/src/server', dependencyTypesNot: ['type-only'] },
    },
    ...folders.map((folder, index) => ({
      name: `core-${folder}-looks-up-only`,
      severity: 'error',
      from: { path: `^core/src/${folder}/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^core/src/(${folders.slice(index + 1).join('|') || 'none'})/` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
