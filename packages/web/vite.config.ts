import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwind()],
  resolve: { conditions: ['@meridiem/source', 'module', 'browser', 'import', 'default'] },
  build: { target: 'es2022', sourcemap: false, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': process.env.MERIDIEM_SERVER_URL ?? 'http://127.0.0.1:4310' } },
});
