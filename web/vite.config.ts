import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react({ compiler: true }), tailwindcss()],
  resolve: { alias: { '~': new URL('./src', import.meta.url).pathname } },
  // Into the package, so that it serves from wherever it is installed.
  build: { target: 'es2023', reportCompressedSize: false, outDir: '../src/yantai/web', emptyOutDir: true },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
  test: { include: ['src/**/*.test.ts'], environment: 'node' },
});
