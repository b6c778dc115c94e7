import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  build: { outDir: '../nabrel/web/static', emptyOutDir: true, assetsInlineLimit: 0 },
  // The drawing of the face lies with the core, which draws it too.
  server: { fs: { allow: ['..'] }, proxy: { '/api': 'http://127.0.0.1:8765' } },
});
