import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import regexp from 'eslint-plugin-regexp';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';
import vueParser from 'vue-eslint-parser';

/** Arrows of the house point down: a package may import only what is named here. */
const MAY_IMPORT = {
  core: [],
  contract: ['core'],
  client: ['contract'],
  words: ['core'],
  archive: ['core'],
  server: ['core', 'contract', 'words', 'archive'],
  web: ['core', 'contract', 'client', 'words'],
  cli: ['core', 'contract', 'client', 'words', 'archive'],
  demo: ['core', 'contract', 'client'],
};
const PACKAGES = Object.keys(MAY_IMPORT);

/** The order of capabilities, the same on every floor: one may use those before it, never those after it. */
const ORDER = [
  ['platform'],
  ['identity'],
  ['things'],
  ['portfolio'],
  ['people'],
  ['naming'],
  ['register'],
  ['preparation'],
  ['drawing', 'scene'],
  ['markup', 'federation', 'plan'],
  ['issues'],
  ['compare'],
  ['clash'],
  ['bcf'],
  ['review'],
  ['transmittal'],
  ['guest', 'live', 'site', 'matching', 'checks'],
  ['insight'],
  ['frame'],
];

/** What a package may not import, whoever in it asks. */
const packagePatterns = (name) => {
  const allowed = MAY_IMPORT[name];
  return [
    ...PACKAGES.filter((other) => other !== name && !allowed.includes(other)).map((other) => ({
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
  ];
};

/** What a capability may not import besides: those after it, and those beside it. */
const orderPatterns = (name, capability) => {
  const rank = ORDER.findIndex((level) => level.includes(capability));
  const later = ORDER.slice(rank)
    .flat()
    .filter((other) => other !== capability);
  const groups = later.flatMap((other) => [`../${other}/*`, `../../${other}/*`]);
  const message = `${capability} comes before these capabilities: what it has to ask of them goes through the registry.`;
  return groups.length ? [{ group: groups, message }] : [];
};

const restricted = (files, patterns, ignores = []) => ({
  files,
  ignores,
  rules: { 'no-restricted-imports': ['error', { patterns }] },
});

/** Parts show what they are given and say what was done: they know no routes, no stores, no server. */
const PART_PATTERNS = [
  {
    group: ['vue-router', 'pinia', '@pinia/colada', '**/*store.ts', '**/related.ts', '**/api.ts'],
    message: 'A part knows no routes, stores or server: its view, dialog or panel gives it what it shows.',
  },
];
const KNOWING = ['View', 'Dialog', 'Panel'].map((kind) => `packages/web/src/**/*${kind}.vue`);

const arrows = PACKAGES.flatMap((name) => [
  restricted([`packages/${name}/**/*.{ts,vue}`], packagePatterns(name)),
  ...ORDER.flat().flatMap((capability) => {
    const files = `packages/${name}/src/${capability}/**/*`;
    const patterns = [...packagePatterns(name), ...orderPatterns(name, capability)];
    if (name !== 'web') return [restricted([`${files}.ts`], patterns)];
    return [
      restricted([`${files}.{ts,vue}`], patterns),
      restricted([`${files}.vue`], [...patterns, ...PART_PATTERNS], KNOWING),
      // Views compose: nobody but the router imports them.
      restricted([`${files}View.vue`], packagePatterns(name)),
    ];
  }),
]);

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
  {
    // Text from outside must not make an expression of ours take for ever; what people write themselves runs in core/platform/pattern.ts.
    files: ['packages/**/*.{ts,vue}'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
    },
  },
  ...arrows,
  // A template carries something of every capability.
  restricted(['packages/contract/src/portfolio/templates.ts'], packagePatterns('contract')),
  // Tests of a package may use the demo's generators to make their files.
  { files: ['**/*.test.ts'], rules: { 'no-restricted-imports': 'off' } },
);
