import { readdirSync, readFileSync } from 'node:fs';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig, type Plugin } from 'vite';

interface Package {
  name: string;
  version: string;
  license?: string;
  dependencies?: Record<string, string>;
}

function read(folder: string): Package {
  return JSON.parse(readFileSync(`${folder}/package.json`, 'utf8')) as Package;
}

/** Writes down what the screens are made of and under which licences, for the About box. */
function licences(): Plugin {
  return {
    name: 'licences',
    apply: 'build',
    generateBundle() {
      const shipped = [...Object.keys(read('.').dependencies ?? {}), 'svelte', 'tailwindcss'];
      const parts = shipped.map((name) => {
        const { version, license } = read(`node_modules/${name}`);
        const named = readdirSync(`node_modules/${name}`).filter((file) =>
          /^(licen[cs]e|copying|notice)/i.test(file),
        );
        const text = named
          .map((file) => readFileSync(`node_modules/${name}/${file}`, 'utf8').trim())
          .join('\n\n');
        return { name, version, licence: license ?? 'see the package', text };
      });
      this.emitFile({ type: 'asset', fileName: 'licences.json', source: JSON.stringify(parts) });
    },
  };
}

export default defineConfig({
  plugins: [tailwindcss(), svelte(), licences()],
  build: { outDir: '../nabrel/web/static', emptyOutDir: true, assetsInlineLimit: 0 },
  // The drawing of the face and the guide lie outside this folder: with the core, and with the docs.
  server: { fs: { allow: ['..'] }, proxy: { '/api': 'http://127.0.0.1:8765' } },
});
