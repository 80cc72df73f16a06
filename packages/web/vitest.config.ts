import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [vue()],
  test: {
    name: 'web',
    include: ['src/**/*.test.ts'],
    environment: 'happy-dom',
    setupFiles: ['test-setup.ts'],
    // Parts that are loaded when they are needed bring their style sheets, which Node itself cannot read.
    server: { deps: { inline: [/element-plus\/.*\/style\//] } },
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
