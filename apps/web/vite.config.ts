import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwind()],
  worker: { format: 'es' },
  build: { target: 'es2023', chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': { target: process.env.SPRIG_API ?? 'http://127.0.0.1:4601', ws: true } } },
});
