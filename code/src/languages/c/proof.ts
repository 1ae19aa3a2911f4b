import { join } from 'node:path';
import { snakeCased } from '../../casing/casing.ts';
import { handed } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';
import { built, type Driver, fields, LINE, ran, WAY } from '../../testing/driver.ts';
import { faultsBy, outputOf, type Proof, written } from '../../testing/languageProof.ts';

const driver: Driver = {
  text: ({ begin, asks, segments }) =>
    snakeCased(`#include <stdio.h>
#include "motion.c"
${segments ? '#include "walls.c"' : ''}
static double paths[65536], points[4096];
static int count;
${
  segments
    ? `static const double segments[] = { ${segments.join(', ')} };
static double courses[${segments.length}], near[${segments.length}];
static Walls walls;
static void contact(Body *b) { walls_contact(b->game, b); }`
    : ''
}
${
  asks.includes('isClear')
    ? `static int is_clear(Body *b, double fromX, double fromY, double toX, double toY) {
  (void)b;
  ${segments ? 'return walls_isClear(&walls, fromX, fromY, toX, toY);' : '(void)fromX; (void)fromY; return toX < 0 || toY < 0 || toX >= 512 || toY >= 384 || ((long)floor(toX / 32) * 7 + (long)floor(toY / 32) * 13) % 5 != 0;'}
}`
    : ''
}
${
  asks.includes('plan')
    ? `static int plan(Body *b, double fromX, double fromY, double toX, double toY) {
  Way *way = &b->way;
  for (int i = 0; i < count; i += ${WAY} + 2 * (int)paths[i + 7]) {
    const double *t = paths + i;
    if (t[0] != fromX || t[1] != fromY || t[2] != toX || t[3] != toY) continue;
    if (t[4] == 0) return 0;
    way->reached = t[5] != 0; way->squeezed = t[6] != 0; way->count = (int)t[7];
    for (int k = 0; k < 2 * way->count; k++) points[k] = t[${WAY} + k];
    way->points = points;
    return 1;
  }
  puts("nobody planned that");
  return 0;
}`
    : ''
}
int main(void) {
  Body b; Hands h; double w[${LINE + 1}]; double *v = w + 1;
  for (;;) {
    for (int i = 0; i < ${LINE + 1}; i++) if (scanf("%lf", &w[i]) != 1) return 0;
    count = (int)w[${LINE}];
    for (int i = 0; i < count; i++) if (scanf("%lf", &paths[i]) != 1) return 1;
    if (w[0] != 0) {
      motion_start(&b); ${begin((field, at) => `b.${field} = w[${at}];`)}
      ${segments ? `b.game = &walls; walls_start(&walls, segments, ${segments.length / 4}, courses, near);` : ''}
    }
    for (int i = 0; i < 11; i++) { h.held[i] = v[i]; h.order[i] = v[11 + i]; }
    ${fields.map((field, i) => `h.${field} = v[${22 + i}];`).join(' ')} h.pointed = v[29] != 0; h.changed = v[30] != 0;
    motion_tick(&b, &h${handed(asks, { contact: segments ? 'contact' : 'motion_free', isClear: 'is_clear', plan: 'plan' })});
    printf("${compared.map(() => '%.17g').join(' ')}\\n", ${compared.map((field) => `b.${field} + 0.0`).join(', ')});
  }
}
`),
};

const includes =
  '#include <stdio.h>\n#include <stdlib.h>\n#include <stdbool.h>\n#include <stddef.h>\n#include <string.h>\n#include <errno.h>\n#include <assert.h>\n';

/** How tests run it. */
export const proof: Proof = {
  command: 'gcc',
  driver,
  run: (stem, folder, input) => {
    built('gcc', ['-O1', '-ffp-contract=off', `${stem}.c`, '-o', stem, '-lm'], folder);
    return ran(join(folder, stem), [], folder, input);
  },
  faults: (texts, folder) =>
    faultsBy(
      'gcc',
      ['-std=c11', '-Wall', '-Werror', '-fsyntax-only', '-x', 'c'],
      texts.map((text) => `${includes}${text}\nint main(void) { return 0; }\n`),
      folder,
    ),
  withoutComments: (texts, folder) => {
    const guards = texts.flatMap((text) => [...text.matchAll(/^#(?:ifndef|define) (\S+_H)$/gm)].map((match) => match[1]));
    for (const guard of guards) if (!/^[A-Z][A-Z0-9_]*$/.test(guard ?? '')) throw new Error(`the guard ${guard} is no name`);
    // The guard is of the tuning's name.
    const files = texts.map((text) => text.replace(/\b[A-Z][A-Za-z0-9_]*_H\b/g, 'GUARD_H'));
    return written(files, folder, 'c').map((path) =>
      outputOf('gcc', ['-fpreprocessed', '-dD', '-E', '-P', '-Werror', '-Wall', path], folder),
    );
  },
  linter: { program: 'gcc', options: ['-Wall', '-Wextra', '-Werror', '-std=c11', '-c'], isOneFile: true },
  names: { refused: ['main', 'NULL', 'bool', '_Walk', '__x', 'été'], taken: [] },
};
