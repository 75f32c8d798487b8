import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [vue()],
  cacheDir: 'node_modules/.vite',
  test: { dir: 'tests/front', environment: 'happy-dom', pool: 'threads' },
});
