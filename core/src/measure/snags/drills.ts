import type { DrillResult } from '../drills/run.ts';
import type { Snag } from './snag.ts';
import { traceSnags } from './trace.ts';

/** The snags that the runs of drills show, each once a drill. Edges are felt in one of them alone: only there can something leave the screen, if it is to be held at all. */
export function drillSnags(results: readonly DrillResult[]): Snag[] {
  return results.flatMap(({ drill, runs }) => {
    const found = new Map<string, Snag>();
    for (const { trace, world, ground, tape } of runs)
      for (const snag of traceSnags({ trace, parameters: world.parameters, ground, tape })) {
        const hasEdges = drill.name === 'edge-press' && world.parameters.bounds.policy !== 'none';
        if (snag.id === 'off-screen' && !hasEdges) continue;
        if (!found.has(snag.id)) found.set(snag.id, { ...snag, drill: drill.name });
      }
    return [...found.values()];
  });
}
