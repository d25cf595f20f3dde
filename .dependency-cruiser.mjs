/** What may import what. `docs/how-it-works.md` draws it. */

/** The rooms of core, from the bottom up: each may import those that it names, and itself. */
const rooms = {
  base: [],
  colour: ['base'],
  filter: ['base'],
  format: ['base'],
  blend: ['base', 'colour'],
  adjust: ['base', 'colour', 'filter', 'format'],
  mask: ['base', 'colour', 'filter', 'blend'],
  content: ['base', 'colour', 'blend', 'mask'],
  document: ['base', 'blend', 'adjust', 'mask', 'content'],
  measure: ['base', 'colour', 'adjust', 'mask'],
  render: ['base', 'colour', 'format', 'blend', 'adjust', 'mask', 'content', 'document'],
};

export default {
  forbidden: [
    { name: 'no-rings', comment: 'Files do not import each other in a ring, types included.', severity: 'error', from: {}, to: { circular: true } },
    ...Object.entries(rooms).map(([room, below]) => ({
      name: `core-${room}`,
      severity: 'error',
      from: { path: `^core/src/${room}/` },
      to: { path: '^core/src/', pathNot: `^core/src/(${[room, ...below].join('|')})/` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.lint.json' },
  },
};
