// Inside a floor imports point downwards too: a folder may use those before it in its list, through their faces.
const CORE = [
  'sentences',
  'column',
  'ratio',
  'time',
  'table',
  'text',
  'picture',
  'chart',
  'ornament',
  'code',
  'placing',
  'blanks',
  'roll',
  'sources',
  'tidying',
  'workbook',
  'marks',
  'condition',
  'order',
  'hook',
  'form',
  'template',
  'sorting',
  'letter-file',
  'fill',
  'begin',
  'filing',
  'paper',
  'page',
  'note',
  'preflight',
  'contract',
];
const SERVER = [
  'store',
  'process',
  'ground',
  'jobs',
  'roll',
  'register',
  'press',
  'pack',
  'drop',
  'post',
  'order',
  'intake',
  'tasks',
  'demo',
  'http',
];
const STATIONS = ['roll', 'page', 'note', 'press', 'register', 'post-room', 'letterhead'];

const downwards = (floor, folders) =>
  folders.slice(0, -1).map((folder, n) => ({
    name: `${floor}-${folder}-downwards`,
    severity: 'error',
    from: { path: `^${floor}/src/${folder}/` },
    to: { path: `^${floor}/src/(${folders.slice(n + 1).join('|')})/` },
  }));

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...downwards('core', CORE),
    ...downwards('server', SERVER),
    {
      name: 'core-through-faces',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/' },
      to: { path: '^core/src/([^/]+)/', pathNot: ['^core/src/$1/', '^core/src/[^/]+/index\\.ts$'] },
    },
    {
      name: 'core-folder-unknown',
      severity: 'error',
      from: {},
      to: { path: '^core/src/', pathNot: `^core/src/(${CORE.join('|')})/` },
    },
    {
      name: 'stations-stand-apart',
      severity: 'error',
      from: { path: `^web/src/app/(${STATIONS.join('|')})/` },
      to: { path: `^web/src/app/(${STATIONS.join('|')})/`, pathNot: '^web/src/app/$1/' },
    },
    {
      name: 'shared-parts-know-no-station',
      severity: 'error',
      from: { path: '^web/src/app/(ui|api|editor|state)/' },
      to: { path: `^web/src/app/(${STATIONS.join('|')}|desk|shell)/` },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(/dist/|node_modules|\\.spec\\.ts$)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
  },
};
