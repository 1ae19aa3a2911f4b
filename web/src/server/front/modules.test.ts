import { describe, expect, it } from 'vitest';
import { modulesOf } from './modules.ts';

const manifest = {
  'src/islands/bench/Bench.tsx': { file: '_astro/Bench.1.js', isDynamicEntry: true, imports: ['_shell.js', '_core.js'] },
  'src/islands/shelf/Shelf.tsx': { file: '_astro/Shelf.2.js', isDynamicEntry: true, imports: ['_shell.js'] },
  'src/islands/bench/lazy.ts': { file: '_astro/lazy.3.js' },
  '_shell.js': { file: '_astro/shell.4.js', imports: ['_core.js', '_missing.js'] },
  '_core.js': { file: '_astro/core.5.js', imports: ['_shell.js'] },
};

describe('the scripts of a screen', () => {
  it('are its own and all that these import, each once', () => {
    expect(modulesOf(manifest, 'bench')).toEqual(['_astro/Bench.1.js', '_astro/shell.4.js', '_astro/core.5.js']);
    expect(modulesOf(manifest, 'shelf')).toEqual(['_astro/Shelf.2.js', '_astro/shell.4.js', '_astro/core.5.js']);
  });

  it('are none of a screen that there is not', () => {
    expect(modulesOf(manifest, 'benc')).toEqual([]);
    expect(modulesOf({}, 'bench')).toEqual([]);
  });
});
