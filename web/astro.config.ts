import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';
import { packed } from './packed.ts';

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware', bodySizeLimit: 33 * 1024 * 1024 }),
  integrations: [react(), packed()],
  // Inline scripts and styles of the framework are allowed by their hashes, nothing else.
  security: {
    csp: {
      directives: [
        "default-src 'self'",
        "img-src 'self' data: blob:",
        "connect-src 'self'",
        "font-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ],
    },
    // The front checks the origin of every write, API included.
    checkOrigin: false,
  },
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    build: { assetsInlineLimit: 0 },
    // Packages of many small modules are bundled: resolving each of them takes most of a server's start.
    ssr: { noExternal: [/^drizzle-orm/, /^zod/, /^nanostores/, /^@nanostores/, /^unstorage/, 'idb', 'comlink', 'fflate', /^d3-/] },
  },
});
