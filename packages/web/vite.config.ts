import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [vue()],
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        // What several views share comes as few files; else each view would begin with forty small ones. Judging names comes apart: it is large.
        codeSplitting: {
          groups: [
            { name: 'names', test: /re2js|core.src.(?:naming.convention|platform.pattern)/, minShareCount: 2 },
            { name: 'base', test: /node_modules/, minShareCount: 4 },
            { name: 'shared', test: /packages.(?!web.src.naming.(?:ComposeName|NameVerdict))/, minShareCount: 4 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8420', ws: true }, '/pdfjs': 'http://127.0.0.1:8420' } },
});
