import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [vue()],
  // Parts that are loaded when they are needed bring their style sheets, which Node itself cannot read.
  resolve: {
    alias: [
      {
        find: /^element-plus\/es\/components\/.*\/style\/css$/,
        replacement: `${import.meta.dirname}/test-no-styles.ts`,
      },
    ],
  },
  test: {
    name: 'web',
    include: ['src/**/*.test.ts'],
    environment: 'happy-dom',
    setupFiles: ['test-setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
