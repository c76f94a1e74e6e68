import vue from 'eslint-plugin-vue'
import accessibility from 'eslint-plugin-vuejs-accessibility'
import ts from 'typescript-eslint'

// Imports point one way: quantities ← api ← marks ← controls ← domain ← shell, steps ← router. A step never imports another, nor the
// frame around it; a page that is read by a link shows what List does, and lets people sign in. Across folders by their names alone, so that no relative path gets past the rule.
const steps = ['weigh', 'gear', 'list', 'swaps', 'plan', 'pack', 'trips', 'year']
const onlyBelow = (files, ...forbidden) => ({
  files: [`src/${files}/**`],
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: [...forbidden.flatMap((name) => [`@/${name}`, `@/${name}/*`]), '../*'] },
    ],
  },
})

export default ts.config(
  { ignores: ['src/api/schema.d.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  ...accessibility.configs['flat/recommended'],
  {
    files: ['**/*.ts', '**/*.vue'],
    languageOptions: {
      parserOptions: { parser: ts.parser, projectService: true, extraFileExtensions: ['.vue'] },
    },
    rules: {
      // No failure is swallowed: a promise is awaited, caught, or said to be nobody's business with `void`.
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/await-thenable': 'error',
      'max-params': ['error', 5],
    },
  },
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
      // Element Plus's form items label what is in them; the rules know plain labels only.
      'vuejs-accessibility/label-has-for': 'off',
      'vuejs-accessibility/form-control-has-label': 'off',
    },
  },
  onlyBelow('quantities', 'api', 'marks', 'controls', 'domain', 'shell', 'steps'),
  onlyBelow('api', 'marks', 'controls', 'domain', 'shell', 'steps'),
  onlyBelow('marks', 'controls', 'domain', 'shell', 'steps'),
  onlyBelow('controls', 'domain', 'shell', 'steps'),
  onlyBelow('domain', 'shell', 'steps'),
  onlyBelow('shell', 'steps'),
  ...steps.map((step) =>
    onlyBelow(
      `steps/${step}`,
      'shell',
      ...steps.filter((other) => other !== step).map((other) => `steps/${other}`),
    ),
  ),
  onlyBelow('public', ...steps.filter((step) => step !== 'list').map((step) => `steps/${step}`)),
)
