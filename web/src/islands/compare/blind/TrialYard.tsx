import { useStore } from '@nanostores/react';
import { bodyRadius } from '@zygopod/core';
import { useRef } from 'react';
import { drawPebbles, drawScreen } from '../../chart/drawEncounters.ts';
import { drawCoordinates, drawGround } from '../../chart/drawGround.ts';
import { drawBody, drawPrints } from '../../chart/drawMotion.ts';
import { drawRoute } from '../../chart/drawRoute.ts';
import { usePainter } from '../../chart/frames.ts';
import { flatLens, type Lens } from '../../chart/lens.ts';
import { shownCamera, shownPose } from '../../chart/pose.ts';
import { usePointerHands } from '../../chart/usePointerHands.ts';
import { useSheet } from '../../chart/useSheet.ts';
import { ViewMenu } from '../../chart/YardMenus.tsx';
import type { BlindTrial } from './trial.ts';

const layers = { wedge: true, velocity: false, grown: false, searched: false };

/** The yard of a blind trial, with nothing that reveals the tuning. */
export function TrialYard({ trial }: { trial: BlindTrial }) {
  const driven = useStore(trial.$driven);
  const round = useStore(trial.$round);
  const { canvas, size, chart, theme, view, $mode, inks, look, choose, move } = useSheet('follow');
  const lens = useRef<Lens | null>(null);
  const { drive } = trial;
  usePainter((now) => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { world } = trial.drive;
    const { width, height, ratio } = size.current;
    const { parameters, trace, ground } = world;
    const ink = inks();
    const pose = shownPose(trial.drive);
    const at = look({ ground: ground.size, x: pose.x, y: pose.y, radius: bodyRadius(parameters.body), isRunning: true }, now);
    lens.current = flatLens(at, width, height);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    chart.current.lay(ctx, lens.current, { width, height }, ratio, theme, (on, part, w, h) =>
      drawGround(on, ground, part, w, h, ink, { grid: true, frame: false }),
    );
    const camera = shownCamera(trial.drive);
    drawPrints(ctx, trace, trial.drive.row, at, ink);
    if (parameters.bounds.frame === 'screen') drawScreen(ctx, parameters.camera, camera.x, camera.y, at, ink, height - 6);
    drawRoute(ctx, world, trial.drive.recorder.hands, at, { width, height }, ink, layers);
    drawPebbles(ctx, trace, trial.drive.row, parameters.facing.launchSpeed, world.walls, at, ink);
    drawBody(ctx, pose, parameters.body, at, ink, layers);
    drawCoordinates(ctx, ground, at, width, height, ink);
  });
  const pointer = usePointerHands({ drive, hub: trial.hub, lens, view, move });
  return (
    <section aria-label="Yard" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        role="img"
        aria-label={`Round ${round}: ${driven === 0 ? 'One' : 'Two'} is driven`}
        {...pointer}
        onDoubleClick={() => choose('follow')}
        data-testid="trial-yard"
      />
      <div className="absolute top-2 left-2">
        <ViewMenu $mode={$mode} choose={choose} />
      </div>
    </section>
  );
}
