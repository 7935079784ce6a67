import withNuxt from './.nuxt/eslint.config.mjs'

export default withNuxt({
  rules: {
    '@stylistic/max-statements-per-line': ['error', { max: 2 }],
    '@stylistic/arrow-parens': 'off',
    '@typescript-eslint/no-explicit-any': 'error',
  },
})
