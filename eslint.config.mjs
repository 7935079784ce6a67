import accessibility from 'eslint-plugin-vuejs-accessibility'
import withNuxt from './.nuxt/eslint.config.mjs'

const rooms = ['app', 'server', 'exchange', 'sound', 'shared', 'demo', 'words']
const testsOfCore = ['**/*.test.ts', 'core/calls/tryout.ts', 'core/calls/wishes.ts']

/** Imports go down only: what the files of a room may not know of. Tests may play with the demo's company. */
function room(files, { knows, packages = [] }) {
  // What is said is at the bottom: everybody may know it.
  const forbidden = rooms.filter(name => !knows.includes(name) && name !== 'words')
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

/** How something is typed. */
const examples = ['https://', 'https://login.house.example', 'somebody@example.org', 'Mon-Fri 8:00-12:00 13:00-18:00 / Sat 9-12']
/** What is no word in any language: signs, units, names of keys and formats. */
const signs = [...'_⋯⠿✕★⚑●◖◫♪♫↷⊘◇○▷◁◀▶≋■□⌂⏎⌫→←↑↓·–—…“”"()[]:;,.!?/*#+=-−×%&|<>{}\'’0123456789', 'Estafette', '⇧', 'F9', ...examples]

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
  {
    files: ['app/**/*.vue'],
    rules: {
      // Words stand in the catalogue (`words/`).
      'vue/no-bare-strings-in-template': ['error', {
        allowlist: signs,
        attributes: {
          '/.+/': ['title', 'aria-label', 'aria-description', 'aria-valuetext', 'label', 'legend', 'placeholder', 'alt', 'each', 'empty', 'action', 'family'],
        },
      }],
    },
  },
  // A subject of the core is called sound, too. It speaks in keys, and knows no language.
  room(['core/**/*.ts'], { knows: ['sound'], packages: [...outside, '/words/en(glish)?(/|$)'] }),
  room(testsOfCore.map(file => file.startsWith('core') ? file : `core/${file}`), { knows: ['demo', 'sound'], packages: outside }),
  {
    // What is computed says itself in keys of the catalogue: a sentence here would be one language's.
    files: [
      'core/**/*.ts', 'shared/**/*.ts',
    ],
    // By which words a column, a sound or a name is known is no sentence; what whoever runs the program reads is in English.
    ignores: [
      '**/*.test.ts', 'core/calls/{tryout,wishes,small-house}.ts', 'core/formats/contact-table.ts',
      'core/directory/{search,sounds}.ts', 'core/directory/recall/*.ts', 'core/recognition/grammar.ts',
      'core/routing/how-callers-ask.ts', 'shared/{link,secret-files}.ts',
      // With what a house begins is its own to change.
      'core/company/company.ts',
    ],
    rules: {
      'no-restricted-syntax': ['error', ...['Literal[value=/[A-Za-z]{2,} [a-z]{2,}/]', 'TemplateElement[value.raw=/[A-Za-z]{2,} [a-z]{2,}/]'].map(selector => ({
        selector, message: 'Words stand in the catalogue (words/en): say its key, with phrase() or a Speaker.',
      }))],
    },
  },
  {
    // What the server answers is said in the language of whoever asks.
    files: ['server/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...[
        'CallExpression[callee.name="createError"] Property[key.name="message"]', 'CallExpression[callee.name="wrongInput"]',
        'NewExpression[callee.name=/^(Unfetched|NotProven|DirectoryUnread|SoundRefused|Answered)$/]',
      ].flatMap(where => ['Literal[value=/[A-Za-z]{2,} [a-z]{2,}/]', 'TemplateElement[value.raw=/[A-Za-z]{2,} [a-z]{2,}/]'].map(said => ({
        selector: `${where} > ${said}, ${where} > TemplateLiteral > ${said}`, message: 'Words stand in the catalogue (words/en/answers.ts): say them with t().',
      })))],
    },
  },
  room(['words/**/*.ts'], { knows: [], packages: ['^(~~|(\\.\\./)+)/?core(/|$)'] }),
  // A sentence is one line, however long.
  { files: ['words/*/*.ts'], rules: { '@stylistic/max-len': 'off' } },
  room(['shared/**/*.ts'], { knows: ['shared'] }),
  room(['shared/**/*.test.ts'], { knows: ['shared', 'demo'] }),
  room(['exchange/**/*.ts'], { knows: ['exchange', 'shared'] }),
  room(['exchange/**/*.test.ts'], { knows: ['exchange', 'shared', 'demo'] }),
  room(['sound/**/*.ts'], { knows: ['sound', 'shared'] }),
  room(['sound/**/*.test.ts'], { knows: ['sound', 'shared', 'demo'] }),
  room(['server/**/*.ts'], { knows: ['server', 'shared'] }),
  room(['server/**/*.test.ts'], { knows: ['server', 'shared', 'demo'] }),
  {
    // What is asked for after a pause belongs to whichever desk is open by then: perhaps to one that has been closed.
    files: ['app/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': ['error', {
        selector: ['ExpressionStatement:has(> AwaitExpression)', 'VariableDeclaration:has(> VariableDeclarator > AwaitExpression)']
          .map(waited => `:function[async=true] > BlockStatement > ${waited} ~ VariableDeclaration > * > CallExpression[callee.name=/^use[A-Z]/]`)
          .join(', '),
        message: 'Ask for stores and composables before the first await.',
      }],
    },
  },
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
