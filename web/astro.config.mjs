import node from '@astrojs/node';
import react from '@astrojs/react';
import { defineConfig } from 'astro/config';

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react()],
  devToolbar: { enabled: false },
  security: { checkOrigin: true, allowedDomains: [{ hostname: '127.0.0.1' }, { hostname: 'localhost' }] },
  server: { host: '127.0.0.1', port: 4321 },
  vite: {
    ssr: { noExternal: true, external: ['@libsql/client', 'libsql'] },
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 1200 },
  },
});
