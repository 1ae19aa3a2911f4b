import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import type { AstroIntegration } from 'astro';

/** Files that get smaller by packing; fonts and pictures are packed already. */
const packs = /\.(?:js|css|svg|json|txt)$/;

/** Writes each built file of text beside itself as brotli and gzip (RFC 7932, RFC 1952), for browsers that take them. */
export const packed = (): AstroIntegration => ({
  name: 'packed',
  hooks: {
    'astro:build:done': ({ dir }) => {
      const folder = join(fileURLToPath(dir), '_astro');
      for (const name of readdirSync(folder)) {
        if (!packs.test(name)) continue;
        const bytes = readFileSync(join(folder, name));
        writeFileSync(join(folder, `${name}.br`), brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
        writeFileSync(join(folder, `${name}.gz`), gzipSync(bytes, { level: 9 }));
      }
    },
  },
});
