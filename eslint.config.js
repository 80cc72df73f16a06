import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';
import vueParser from 'vue-eslint-parser';

/** Arrows of the house point down: a package may import only what is named here. */
const MAY_IMPORT = {
  core: [],
  contract: ['core'],
  server: ['core', 'contract'],
  web: ['core', 'contract'],
  cli: ['core', 'contract'],
  demo: ['core', 'contract'],
};
const PACKAGES = Object.keys(MAY_IMPORT);

const arrows = Object.entries(MAY_IMPORT).map(([name, allowed]) => {
  const forbidden = PACKAGES.filter((other) => other !== name && !allowed.includes(other));
  return {
    files: [`packages/${name}/**/*.{ts,vue}`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...forbidden.map((other) => ({
              group: [`@kindred/${other}`, `@kindred/${other}/*`],
              message: `${name} may not import ${other}: arrows point down.`,
            })),
            {
              group: PACKAGES.filter((other) => other !== name).map((other) => `**/${other}/src/**`),
              message: 'Import other packages by their name.',
            },
            ...(name === 'core'
              ? [{ group: ['node:*', 'vue', 'express', 'drizzle-orm', 'pg'], message: 'core is computation only.' }]
              : []),
          ],
        },
      ],
    },
  };
});

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.data/**', 'packages/server/migrations/**', 'test-results/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  prettier,
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser } },
  },
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
    rules: {
      'no-undef': 'off',
      'vue/multi-word-component-names': 'error',
      'vue/attributes-order': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true, allowShortCircuit: true }],
    },
  },
  ...arrows,
  // Tests of a package may use the demo's generators to make their files.
  { files: ['**/*.test.ts'], rules: { 'no-restricted-imports': 'off' } },
);
