import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig({
  plugins: [react(), compression({ algorithms: ['gzip', 'brotliCompress'], threshold: 1024 })],
  build: {
    outDir: '../server/dist',
    emptyOutDir: true,
    manifest: 'manifest.json',
    cssCodeSplit: false,
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8321' } },
});
