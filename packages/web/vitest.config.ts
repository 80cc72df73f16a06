import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [vue()],
  test: {
    name: 'web',
    include: ['src/**/*.test.ts'],
    environment: 'happy-dom',
    setupFiles: ['test-setup.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
