import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { readFileSync } from 'node:fs';
import { defineConfig } from 'vite';

const { version } = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
  version: string;
};

export default defineConfig({
  plugins: [react(), tailwind()],
  define: { 'import.meta.env.VITE_VERSION': JSON.stringify(version) },
  resolve: { conditions: ['@meridiem/source', 'module', 'browser', 'import', 'default'] },
  build: { target: 'es2022', sourcemap: false, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': process.env.MERIDIEM_SERVER_URL ?? 'http://127.0.0.1:4310' } },
});
