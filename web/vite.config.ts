import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { chunkSizeWarningLimit: 900 },
  server: {
    proxy: Object.fromEntries(['/api', '/iiif', '/thumbs'].map((path) => [path, 'http://127.0.0.1:8347'])),
  },
});
