import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

// Imports point one way: quantities ← api ← marks, shell ← steps ← router. A step never imports another.
const steps = ['weigh', 'gear', 'list', 'swaps', 'plan']
const onlyBelow = (files, ...forbidden) => ({
  files: [`src/${files}/**`],
  rules: { 'no-restricted-imports': ['error', { patterns: forbidden.map((name) => `@/${name}/*`) }] },
})

export default ts.config(
  { ignores: ['src/api/schema.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      // Layout is prettier's.
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
    },
  },
  onlyBelow('quantities', 'api', 'marks', 'shell', 'steps'),
  onlyBelow('api', 'marks', 'shell', 'steps'),
  onlyBelow('marks', 'shell', 'steps'),
  onlyBelow('shell', 'steps'),
  ...steps.map((step) => onlyBelow(`steps/${step}`, ...steps.filter((other) => other !== step).map((other) => `steps/${other}`))),
)
