import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

/** Logic of the rooms, without a browser; what needs one is driven in Chromium by the tests in Python. */
export default defineConfig({
  plugins: [svelte()],
  resolve: { conditions: ['browser'] },
  test: { environment: 'happy-dom', include: ['tests/**/*.test.ts'], unstubGlobals: true },
});
