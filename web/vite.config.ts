import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

const SW = 'sw.js';
/** What stands in the folder `public`, and is no part of the bundle. */
const PUBLIC = ['icon.svg'];
/** The worker itself, its page, and what belongs to the client's own page. */
const OF_OTHERS = new Set([SW, 'index.html', 'my.html', 'my-sw.js']);

/** Writes into the service worker which files the build has: all of them are kept, and others are another version. */
const listShell = (): Plugin => ({
  name: 'list-shell',
  apply: 'build',
  generateBundle: {
    order: 'post',
    async handler(_, bundle) {
      const worker = bundle[SW];
      if (worker?.type !== 'chunk') throw new Error(`The build has no ${SW}.`);
      const built = Object.keys(bundle).filter(
        (name) => !OF_OTHERS.has(name) && !name.startsWith('assets/my-'),
      );
      const files = [...built, ...PUBLIC].sort().map((name) => `/${name}`);
      const page = bundle['index.html'];
      const content = `${files.join()} ${page?.type === 'asset' ? page.source : ''} ${worker.code}`;
      const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(content));
      const version = [...new Uint8Array(digest.slice(0, 6))].map((byte) => byte.toString(16)).join('');
      worker.code = worker.code.replace('__SHELL__', () => JSON.stringify({ version, files }));
    },
  },
});

export default defineConfig({
  // The client's own page is small, and drawn without React.
  plugins: [react({ compiler: true, exclude: /client-link/ }), tailwindcss(), listShell()],
  resolve: { alias: { '~': new URL('./src', import.meta.url).pathname } },
  // Into the package, so that it serves from wherever it is installed.
  build: {
    target: 'es2023',
    reportCompressedSize: false,
    outDir: '../src/yantai/web',
    emptyOutDir: true,
    rollupOptions: {
      input: {
        index: 'index.html',
        my: 'my.html',
        sw: 'src/offline/worker.ts',
        'my-sw': 'src/client-link/worker.ts',
      },
      output: {
        entryFileNames: ({ name }) => (name.endsWith('sw') ? `${name}.js` : 'assets/[name]-[hash].js'),
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
  test: { include: ['src/**/*.test.ts'], environment: 'node' },
});
