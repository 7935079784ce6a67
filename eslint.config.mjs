import accessibility from 'eslint-plugin-vuejs-accessibility'
import withNuxt from './.nuxt/eslint.config.mjs'

const rooms = ['app', 'server', 'exchange', 'sound', 'shared', 'demo']
const testsOfCore = ['**/*.test.ts', 'core/calls/tryout.ts', 'core/calls/wishes.ts']

/** Imports go down only: what the files of a room may not know of. Tests may play with the demo's company. */
function room(files, { knows, packages = [] }) {
  const forbidden = rooms.filter(name => !knows.includes(name))
  return {
    files,
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: `^(~~|(\\.\\./)+)/?(${forbidden.join('|')})(/|$)`,
              message: `Imports go down only: nothing in ${files[0]} knows of ${forbidden.join(', ')} (docs/architecture.md).`,
            },
            ...packages.map(regex => ({
              regex,
              message: 'The computation knows no interface, database, network, file, clock or chance (docs/architecture.md).',
            })),
          ],
        },
      ],
    },
  }
}

const outside = ['^node:', '^(vue|nuxt|pinia|h3|pg|ws)(/|$)', '^#', '^@(vue|nuxt|pinia|mikro-orm|vueuse)/']

export default withNuxt(
  {
    rules: {
      '@stylistic/max-statements-per-line': ['error', { max: 2 }],
      '@stylistic/arrow-parens': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      '@stylistic/max-len': ['error', { code: 160, ignoreUrls: true }],
    },
  },
  ...accessibility.configs['flat/recommended'],
  {
    files: ['app/**/*.vue'],
    rules: {
      // A label names its control by `for`, or holds it: either will do.
      'vuejs-accessibility/label-has-for': ['error', { required: { some: ['nesting', 'id'] } }],
    },
  },
  // A subject of the core is called sound, too.
  room(['core/**/*.ts'], { knows: ['sound'], packages: outside }),
  room(testsOfCore.map(file => file.startsWith('core') ? file : `core/${file}`), { knows: ['demo', 'sound'], packages: outside }),
  room(['shared/**/*.ts'], { knows: ['shared'] }),
  room(['shared/**/*.test.ts'], { knows: ['shared', 'demo'] }),
  room(['exchange/**/*.ts'], { knows: ['exchange', 'shared'] }),
  room(['exchange/**/*.test.ts'], { knows: ['exchange', 'shared', 'demo'] }),
  room(['sound/**/*.ts'], { knows: ['sound', 'shared'] }),
  room(['sound/**/*.test.ts'], { knows: ['sound', 'shared', 'demo'] }),
  room(['server/**/*.ts'], { knows: ['server', 'shared'] }),
  room(['server/**/*.test.ts'], { knows: ['server', 'shared', 'demo'] }),
  room(['app/**/*.ts', 'app/**/*.vue'], { knows: ['app', 'shared'] }),
  room(['app/**/*.test.ts'], { knows: ['app', 'shared', 'demo'] }),
  {
    // What runs before the packages are installed can't know any; what starts when they are there asks for them then.
    files: ['scripts/*.mjs'],
    ignores: ['scripts/{bench*,screenshots,link}.mjs'],
    rules: {
      'no-restricted-imports': ['error', {
        patterns: [
          { regex: '^(?!\\.|node:)', message: 'A fresh machine has no packages yet: import() them where they are needed (docs/architecture.md).' },
          { regex: '/(bench|screenshots|link)', message: 'The start and test commands know nothing that needs a package.' },
        ],
      }],
    },
  },
  room(['demo/**/*.ts'], { knows: ['demo', 'exchange', 'server', 'shared'] }),
)
