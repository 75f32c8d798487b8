import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  root: 'resources/app',
  base: '/app/',
  cacheDir: '../../node_modules/.vite',
  plugins: [vue()],
  build: { outDir: '../../public/app', emptyOutDir: true, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:8600' } },
});
