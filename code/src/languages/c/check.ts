import { snakeCased } from '../../casing/casing.ts';
import { CHANGED, type CheckFile, columns, HANDS, handed, POINTED, quotedSnake, single } from '../../golden/columns.ts';
import { compared } from '../../golden/modelRun.ts';

/** The test that replays goldens in it. */
export const check: CheckFile = {
  name: 'check.c',
  run: 'cc -O2 -ffp-contract=off check.c -lm -o check && ./check goldens/*.csv',
  text: (asks) =>
    snakeCased(`/* Replays goldens against the game's own movement, and reports the first difference, and its size. */
#include <stdio.h>
#include <stdlib.h>
/* Your own movement in place of the model's: a Body, motion_start and motion_tick. */
#include "motion.c"
#define SLACK 1e-6
${asks.includes('isClear') ? '\nstatic int is_clear(Body *b, double fromX, double fromY, double toX, double toY) { (void)b; (void)fromX; (void)fromY; (void)toX; (void)toY; return 1; }\n' : ''}${
  asks.includes('plan')
    ? '\nstatic double points[4];\n/* A straight path. */\nstatic int plan(Body *b, double fromX, double fromY, double toX, double toY) {\n    points[0] = fromX; points[1] = fromY; points[2] = toX; points[3] = toY;\n    b->way.points = points; b->way.count = 2; b->way.reached = 1; b->way.squeezed = 0;\n    return 1;\n}\n'
    : ''
}
static int check(const char *name) {
    FILE *file = fopen(name, "r");
    static char line[65536];
    const char *fields[] = { ${quotedSnake} };
    Body b;
    Hands h;
    if (!file || !fgets(line, sizeof line, file)) { printf("%s: cannot be read\\n", name); return 1; }
    for (int tick = 0; fgets(line, sizeof line, file); tick++) {
        double v[${columns.length}];
        char *at = line;
        for (int i = 0; i < ${columns.length}; i++, at++) v[i] = strtod(at, &at);
        if (v[0] != 0) motion_start(&b);
        for (int i = 0; i < 11; i++) { h.held[i] = v[1 + i]; h.order[i] = v[12 + i]; }
        ${single.map(([field, at]) => `h.${field} = v[${at}];`).join(' ')}
        h.pointed = v[${POINTED}] != 0; h.changed = v[${CHANGED}] != 0;
        motion_tick(&b, &h${handed(asks, { contact: 'motion_free', isClear: 'is_clear', plan: 'plan' })});
        const double got[] = { ${compared.map((field) => `b.${field}`).join(', ')} };
        for (int i = 0; i < ${compared.length}; i++) {
            const double want = v[${HANDS} + i], off = fabs(got[i] - want);
            if (!(off <= SLACK * fmax(1.0, fabs(want)))) {
                printf("%s: first at tick %d: %s is %.9g, in the golden %.9g, off by %.3g\\n", name, tick, fields[i], got[i], want, off);
                fclose(file);
                return 1;
            }
        }
    }
    fclose(file);
    printf("%s: good\\n", name);
    return 0;
}

int main(int count, char **names) {
    int failed = count < 2;
    for (int i = 1; i < count; i++) failed |= check(names[i]);
    return failed;
}
`),
};
