import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// Nothing is inlined: the content security policy lets in only files of our own.
export default defineConfig({
  plugins: [react()],
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  server: { proxy: { '/api': 'http://127.0.0.1:8473' } },
});
