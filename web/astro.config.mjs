import node from '@astrojs/node';
import react from '@astrojs/react';
import { defineConfig } from 'astro/config';

/** What differs between building and developing. */
const ways = {
  name: 'ways',
  hooks: {
    'astro:config:setup': ({ command, updateConfig }) => {
      // The built server carries its packages with it; in development they are taken as they are.
      if (command === 'build')
        updateConfig({ vite: { ssr: { noExternal: true, external: ['@libsql/client', 'libsql'] } } });
    },
    // An empty tree has no tables yet.
    'astro:server:setup': async ({ server }) => {
      const { prepare } = await server.ssrLoadModule('/src/server/prepare.ts');
      await prepare();
    },
  },
};

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react(), ways],
  devToolbar: { enabled: false },
  security: { checkOrigin: true, allowedDomains: [{ hostname: '127.0.0.1' }, { hostname: 'localhost' }] },
  server: { host: '127.0.0.1', port: 4321 },
  vite: {
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 1200 },
  },
});
