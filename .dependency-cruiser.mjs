// No folder stands on one that stands on it: what is imported for its types alone does not count. Who may stand on whom
// at all is eslint.config.js's.
export default {
  forbidden: [
    {
      name: 'no-circle-of-folders',
      comment: 'Two folders need each other. Move what both need to the lower one, or to one of its own.',
      severity: 'error',
      scope: 'folder',
      from: {},
      to: { circular: true },
    },
  ],
  options: {
    includeOnly: '^(app|core|db|sim|server|instruments|demo|shell|testing)/',
    exclude: { path: '\\.test\\.tsx?$' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: false,
  },
}
