import { useStore } from '@nanostores/react';
import { bodyRadius } from '@zygopod/core';
import { drawCoordinates, drawGround } from '../chart/drawGround.ts';
import { usePainter } from '../chart/frames.ts';
import { flatLens } from '../chart/lens.ts';
import { usePanning } from '../chart/usePanning.ts';
import { useSheet } from '../chart/useSheet.ts';
import { ViewMenu } from '../chart/YardMenus.tsx';
import { useGame } from './context.ts';
import { drawBodies, drawGamePath, drawModelPrints } from './drawGame.ts';

/** The game's body and path over the model's, on the ground of the model. */
export function GameYard() {
  const game = useGame();
  const { canvas, size, chart, theme, view, $mode, inks, look, choose, move } = useSheet();
  const isOpen = useStore(game.$isOpen);
  const open = useStore(game.$game);
  const panning = usePanning(view, move);

  usePainter((now) => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const { width, height, ratio } = size.current;
    const { ground } = game;
    const { drive, row } = game.shown;
    const ink = inks();
    const shown = drive?.model && row !== null ? { model: drive.model, game: drive.game, row } : null;
    const { x, y } = shown ? { x: shown.game.at('x', shown.row), y: shown.game.at('y', shown.row) } : ground.start;
    const body = (drive?.parameters ?? game.work.editing.$plainTuning.get().parameters).body;
    const at = look({ ground: ground.size, x, y, radius: bodyRadius(body), isRunning: game.shown.$held.get() === null }, now);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.fillStyle = ink.paper;
    ctx.fillRect(0, 0, width, height);
    chart.current.lay(ctx, flatLens(at, width, height), { width, height }, ratio, `${theme} ${ground.name} ${isOpen}`, (on, part, w, h) =>
      drawGround(on, ground, part, w, h, ink, { grid: true, frame: false }),
    );
    if (shown) {
      const hz = game.$game.get()?.hz ?? 60;
      drawModelPrints(ctx, shown.model, shown.row, hz, at, ink);
      drawGamePath(ctx, shown.game, shown.row, hz, at, ink);
      drawBodies(ctx, shown.model, shown.game, shown.row, body, ground.unit, at, ink);
    }
    drawCoordinates(ctx, ground, at, width, height, ink);
  });

  return (
    <section aria-label="Yard" className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        role="img"
        aria-label={open ? `The path of ${open.game} over the model’s` : 'The ground of the model'}
        {...panning}
        onDoubleClick={() => choose('first')}
        data-testid="yard"
      />
      <div className="absolute top-2 left-2">
        <ViewMenu $mode={$mode} choose={choose} />
      </div>
      <p className="pointer-events-none absolute bottom-6 left-2 flex gap-3 bg-sheet/85 px-2 py-0.5 text-xs">
        <span>
          <span
            aria-hidden="true"
            className="mr-1 inline-block size-2.5 rounded-full border-[1.5px] border-dashed border-ink align-[-1px]"
          />
          the model with these numbers
        </span>
        <span>
          <span aria-hidden="true" className="mr-1.5 ml-0.5 inline-block size-2 rotate-45 bg-route align-[0px]" />
          the game
        </span>
      </p>
    </section>
  );
}
