/** What may import what. `docs/how-it-works.md` draws it. */

/** The rooms of core, from the bottom up: each may import those that it names, and itself. */
const core = {
  base: [],
  colour: ['base'],
  filter: ['base'],
  align: ['base'],
  geometry: ['base', 'colour'],
  format: ['base'],
  blend: ['base', 'colour'],
  adjust: ['base', 'colour', 'filter', 'format', 'geometry'],
  mask: ['base', 'colour', 'filter', 'geometry', 'blend'],
  content: ['base', 'colour', 'blend', 'mask'],
  document: ['base', 'colour', 'geometry', 'blend', 'adjust', 'mask', 'content'],
  measure: ['base', 'colour', 'blend', 'adjust', 'mask', 'document'],
  render: ['base', 'colour', 'format', 'blend', 'adjust', 'mask', 'content', 'document'],
  warnings: ['base', 'colour', 'geometry', 'adjust', 'mask', 'content', 'document', 'measure', 'render'],
  carry: ['base', 'colour', 'adjust', 'geometry', 'mask', 'document', 'measure', 'render', 'solve'],
  treatment: ['base', 'colour', 'adjust', 'mask', 'content', 'document', 'carry'],
  solve: ['base', 'colour', 'adjust', 'mask', 'content', 'document', 'measure', 'render'],
};

/** The rooms of the bench: what it knows, what several editors are made of, and its regions. */
const bench = {
  keeping: [],
  state: ['keeping'],
  ranges: ['state'],
  colour: ['state'],
  desk: ['state', 'colour'],
  stage: ['state', 'colour', 'desk'],
  cards: ['state', 'desk'],
  side: ['state', 'colour', 'desk', 'ranges'],
  where: ['state', 'colour', 'desk', 'ranges'],
  what: ['state', 'colour', 'desk', 'ranges'],
  how: ['state', 'desk', 'ranges'],
  tools: ['state', 'colour', 'stage', 'where', 'what'],
  intents: ['state', 'colour', 'cards'],
};

const keepTo = (house, rooms) =>
  Object.entries(rooms).map(([room, below]) => ({
    name: `${house.replaceAll('/', '-')}-${room}`,
    severity: 'error',
    from: { path: `^${house}/${room}/` },
    to: { path: `^${house}/`, pathNot: `^${house}/(${[room, ...below].join('|')})/` },
  }));

export default {
  forbidden: [
    {
      name: 'no-rings',
      comment: 'Files do not import each other in a ring, types included.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...keepTo('core/src', core),
    ...keepTo('web/src/bench', bench),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.lint.json' },
  },
};
