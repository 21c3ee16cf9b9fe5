import js from '@eslint/js'
import boundaries from 'eslint-plugin-boundaries'
import reactHooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import ts from 'typescript-eslint'

// The floors of the house: an arrow points from a floor to those it may stand on. None runs upwards.
const MAY_STAND_ON = {
  core: ['core'],
  sim: ['core', 'sim'],
  db: ['core', 'db'],
  instruments: ['core', 'sim', 'instruments'],
  app: ['core', 'db', 'app'],
  // The service worker is a program of its own.
  shell: ['shell'],
  server: ['db', 'app', 'server'],
  demo: ['core', 'sim', 'db', 'demo'],
  command: ['sim', 'db', 'demo', 'command'],
  benchmark: ['core', 'sim', 'db', 'demo', 'testing', 'benchmark'],
  testing: ['core', 'sim', 'db', 'instruments', 'app', 'testing'],
  e2e: ['core', 'sim', 'db', 'app', 'demo', 'testing', 'benchmark', 'e2e'],
}

// Within core: which subject may use which. No circles.
const CORE_MAY_USE = {
  verdict: [],
  units: [],
  refrigerants: ['units'],
  cylinders: ['verdict', 'units', 'refrigerants'],
  identity: ['units', 'refrigerants'],
  hoses: [],
  leaks: ['verdict', 'units', 'refrigerants'],
  site: ['verdict', 'units', 'refrigerants'],
  systems: ['units', 'refrigerants'],
  scales: ['units'],
  recovery: ['verdict', 'units', 'refrigerants', 'scales'],
  vacuum: ['verdict', 'units', 'refrigerants', 'hoses'],
  oil: ['verdict', 'units', 'refrigerants'],
  charging: [
    'verdict',
    'units',
    'refrigerants',
    'systems',
    'scales',
    'cylinders',
    'oil',
    'recovery',
    'hoses',
  ],
  verify: ['verdict', 'units', 'refrigerants', 'systems'],
  vehicles: [],
  programme: [],
  ledger: ['units'],
  kit: ['units', 'refrigerants', 'scales'],
  samples: ['kit'],
  tape: [
    'verdict',
    'units',
    'scales',
    'refrigerants',
    'cylinders',
    'systems',
    'charging',
    'oil',
    'leaks',
    'recovery',
    'vacuum',
    'verify',
    'identity',
    'ledger',
    'programme',
    'kit',
    'samples',
  ],
  watching: [
    'charging',
    'units',
    'verdict',
    'scales',
    'refrigerants',
    'systems',
    'cylinders',
    'identity',
    'recovery',
    'samples',
    'tape',
  ],
  alarms: ['units', 'cylinders', 'programme', 'recovery', 'tape', 'watching'],
  unsent: ['cylinders', 'ledger', 'kit', 'tape'],
}

// Within app: the floors, from the ground up. A room stands on those of the floors below, and on its neighbours as long as
// that makes no circle (.dependency-cruiser.mjs).
const FLOORS_OF_APP = [
  ['base'],
  ['words', 'workers'],
  // What several screens share, by subject.
  [
    'alarms',
    'api',
    'cylinders',
    'exchange',
    'job-data',
    'kit',
    'ledger',
    'photos',
    'programme',
    'samples',
    'slide-rule',
    'systems',
    'tape',
  ],
  // All that this browser has.
  ['device'],
  ['job'],
  ['pages'],
  ['threads'],
  ['routes'],
]

// A module of React Router's: what is in it stands in app/routes.ts, and nobody else may want it.
const NO_ROUTE_IMPORTS_ANOTHER = {
  regex: '^(~/routes/|\\.\\./|\\./(?!\\+types/))',
  message:
    'No route imports another: what two routes need is a part of a page (app/pages), or of the job (app/job).',
}
const FRONT_DOORS = [
  { regex: '^#core/[^/]+/(?!.*[.]json$)', message: "Import from the folder's front door: '#core/tape'." },
  { regex: '^~/words/en/', message: "Import from the folder's front door: '~/words/en'." },
  { group: ['react-bootstrap/*'], message: "Import from 'react-bootstrap'." },
]
const NO_SQL = { group: ['postgres'], message: 'SQL lives in db/: add a query module there.' }

export default ts.config(
  { ignores: ['build', '.react-router', 'node_modules', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-empty': ['error', { allowEmptyCatch: false }],
      'no-console': 'error',
      eqeqeq: 'error',
    },
  },
  { files: ['app/**/*.{ts,tsx}'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    files: ['{command,bench,demo,server,instruments,e2e,testing}/**/*.ts', '**/*.mjs', '*.ts'],
    rules: { 'no-console': 'off' },
  },
  {
    files: ['**/*.{ts,tsx}'],
    // Tests may look behind every door.
    ignores: ['**/*.test.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: { project: './tsconfig.json' } },
      'boundaries/include': ['**/*.{ts,tsx}'],
      'boundaries/elements': [
        { type: 'core', pattern: 'core/*', capture: ['subject'], partialMatch: false },
        { type: 'app', pattern: 'app/*', capture: ['room'], partialMatch: false },
        // root, entries and the list of routes: the roof.
        { type: 'app', pattern: 'app', partialMatch: false },
        ...['sim', 'instruments', 'db', 'shell', 'server', 'demo', 'command', 'e2e', 'testing'].map(
          (type) => ({
            type,
            pattern: type,
            partialMatch: false,
          }),
        ),
        { type: 'benchmark', pattern: 'bench', partialMatch: false },
      ],
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            ...Object.entries(MAY_STAND_ON).map(([from, to]) => ({
              from: { element: { type: from } },
              allow: { to: { element: { types: { anyOf: to } } } },
            })),
            ...Object.entries(CORE_MAY_USE).map(([from, uses]) => ({
              from: { element: { type: 'core', captured: { subject: from } } },
              disallow: {
                to: {
                  element: {
                    type: 'core',
                    captured: {
                      subject: Object.keys(CORE_MAY_USE).filter((s) => s !== from && !uses.includes(s)),
                    },
                  },
                },
              },
            })),
            ...FLOORS_OF_APP.flatMap((rooms, floor) =>
              rooms.map((room) => ({
                from: { element: { type: 'app', captured: { room } } },
                disallow: {
                  to: { element: { type: 'app', captured: { room: FLOORS_OF_APP.slice(floor + 1).flat() } } },
                },
              })),
            ),
            { allow: { to: { module: { origin: ['external', 'core'] } } } },
          ],
        },
      ],
    },
  },
  {
    // A folder's index is its front door.
    files: ['**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: FRONT_DOORS,
        },
      ],
    },
  },
  {
    // core and the plant compute: no interface, no Node, no clock and no dice of their own.
    files: ['{core,sim}/**/*.ts'],
    ignores: ['{core,sim}/**/*.test.ts', 'core/**/data/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'window',
        'document',
        'fetch',
        'performance',
        'crypto',
        'setTimeout',
      ],
      'no-restricted-properties': [
        'error',
        {
          object: 'Math',
          property: 'random',
          message: 'core has no dice of its own: pass what is needed in.',
        },
        { object: 'Date', property: 'now', message: 'core has no clock of its own: pass the time in.' },
      ],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(node:|react|postgres$|#db$|~/)',
              message: 'core is pure computation.',
            },
            {
              regex: '^\\.\\./(?!\\.\\.)[^/]+/.+',
              message: "Import from the folder's front door: '../tape'.",
            },
          ],
        },
      ],
    },
  },
  {
    // The tape's own rooms know each other file by file, and other subjects by their front door.
    files: ['core/tape/*/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: '^(node:|react|postgres$|#db$|~/)', message: 'core is pure computation.' },
            {
              regex: '^\\.\\./\\.\\./(?!\\.\\.)[^/]+/.+',
              message: "Import from the folder's front door: '../../units'.",
            },
          ],
        },
      ],
    },
  },
  {
    // A chapter of the tape knows the whole state, and no other chapter.
    files: ['core/tape/chapters/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(node:|react|postgres$|#db$|~/)',
              message: 'core is pure computation.',
            },
            { regex: '^\\./', message: 'No chapter imports another: read the whole JobState.' },
            { regex: '^\\.\\./\\.\\./(?!\\.\\.)[^/]+/.+', message: "Import from the folder's front door." },
          ],
        },
      ],
    },
  },
  {
    // SQL lives in db/.
    files: ['{app,core,server,bench}/**/*.{ts,tsx}'],
    // Chaos ends the database's sessions from outside.
    ignores: ['core/**', 'bench/{chaos,shops}.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [...FRONT_DOORS, NO_SQL],
        },
      ],
    },
  },
  {
    files: ['app/routes/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [...FRONT_DOORS, NO_SQL, NO_ROUTE_IMPORTS_ANOTHER] }],
    },
  },
)
