import { describe, expect, it } from 'vitest';
import { sequence } from '../../testing/sequence.ts';
import { handOffPathFault } from './path.ts';

describe('a place in a project’s folder', () => {
  it('is below it, and none of the project’s own files', () => {
    for (const good of [
      'motion.h',
      'src/game/motion.h',
      'Assets/Motion Numbers.cs',
      'src/tunings/x.lua',
      'größe/gang.py',
      'a.b/c-d_e.json',
    ])
      expect(handOffPathFault(good), good).toBeNull();
    for (const bad of [
      ...['', '/etc/motion.h', '../motion.h', 'src/../../motion.h', 'src//motion.h', 'src/', './motion.h', '.git/config', 'src/.hidden'],
      ...['C:/motion.h', 'src\\motion.h', 'src/mo\u0000tion.h', 'src/motion?.h', 'src/ motion.h', 'x'.repeat(201)],
      ...['tunings/a.tuning.json', 'Tapes/a', 'grounds/x.c', 'targets/y', 'project.json', 'Project.json'],
    ])
      expect(handOffPathFault(bad), JSON.stringify(bad)).not.toBeNull();
  });

  it('never leads out of the folder, whatever it is made of', () => {
    const next = sequence(11);
    const bits = ['..', '.', '', 'a', 'src', 'b.c', '/', '\\', ' ', '~', 'tunings', 'x..'];
    let taken = 0;
    for (let i = 0; i < 5000; i++) {
      const path = Array.from({ length: 1 + Math.floor(next() * 5) }, () => bits[Math.floor(next() * bits.length)]).join(
        next() < 0.7 ? '/' : '',
      );
      if (handOffPathFault(path) !== null) continue;
      taken++;
      // As a resolver of addresses has it, which is nobody of ours.
      const { pathname } = new URL(path.split('/').map(encodeURIComponent).join('/'), 'file:///folder/in/');
      expect(decodeURIComponent(pathname), path).toBe(`/folder/in/${path}`);
    }
    expect(taken).toBeGreaterThan(100);
  });
});
