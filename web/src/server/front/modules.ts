import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';

/** What the build has made of a source file, as it says. */
interface Chunk {
  file: string;
  isDynamicEntry?: boolean;
  /** Chunks that it cannot do without. */
  imports?: string[];
}
export type Manifest = Readonly<Record<string, Chunk>>;

/** The script of a screen and all that it imports, each once. */
export function modulesOf(manifest: Manifest, screen: string): string[] {
  const found = new Set<string>();
  const visit = (key: string) => {
    const chunk = manifest[key];
    if (!chunk || found.has(chunk.file)) return;
    found.add(chunk.file);
    for (const one of chunk.imports ?? []) visit(one);
  };
  for (const [key, { isDynamicEntry }] of Object.entries(manifest))
    if (isDynamicEntry && key.startsWith(`src/islands/${screen}/`)) visit(key);
  return [...found];
}

let built: Manifest | null = null;

/** Addresses of the scripts of a screen, to be fetched while the page is read; none where nothing was built. */
export function screenModules(screen: string): string[] {
  try {
    built ??= JSON.parse(readFileSync(resolve('dist/client/.vite/manifest.json'), 'utf8')) as Manifest;
  } catch {
    built = {};
  }
  return modulesOf(built, screen).map((file) => `/${file}`);
}
