import { readTape, rerun, type Tape } from '@zygopod/core';
import { useEffect, useRef } from 'react';
import { drawPrints } from '../chart/drawMotion.ts';
import { readInks } from '../chart/theme.ts';
import { otherGround, whyUnfit } from '../drive/tapeFit.ts';
import type { TuningWork } from '../tuning/context.ts';
import { fetchDocument } from '../work/documentActions.ts';

const WIDTH = 64;
const HEIGHT = 38;
/** Ticks of a tape that its picture shows at most. */
const SHOWN = 1800;

interface Props {
  id: string;
  work: TuningWork;
  /** Says why the tape is not for this ground and tuning. */
  remark(words: string | null): void;
}

/** The prints that a kept tape leaves with the tuning at hand on the ground at hand, if it was driven there; drawn when it comes into sight. */
export function TapePicture({ id, work, remark }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const say = useRef(remark);
  useEffect(() => {
    say.current = remark;
  });
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    let current = true;
    const watch = new IntersectionObserver((seen) => {
      if (!seen.some(({ isIntersecting }) => isIntersecting)) return;
      watch.disconnect();
      void fetchDocument('tapes', id).then((kept) => {
        const read = current && 'file' in kept ? readTape(kept.file) : null;
        if (!read?.ok) return;
        const { ground, parameters } = work.drive.world;
        say.current(whyUnfit(read.value, { ground, parameters }));
        if (otherGround(read.value, ground) === null) draw(element, read.value, work);
      });
    });
    watch.observe(element);
    return () => {
      current = false;
      watch.disconnect();
    };
  }, [id, work]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="Its prints"
      className="shrink-0 border border-rule bg-sheet"
      style={{ width: WIDTH, height: HEIGHT }}
    />
  );
}

function draw(canvas: HTMLCanvasElement, tape: Tape, { drive }: TuningWork): void {
  const ctx = canvas.getContext('2d');
  if (!ctx) return;
  const known = drive.world;
  const { trace } = rerun(tape, known.parameters, known.ground, { known, most: SHOWN });
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let row = trace.first; row < trace.end; row++) {
    const [x, y] = [trace.at('x', row), trace.at('y', row)];
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y);
  }
  const ratio = window.devicePixelRatio;
  canvas.width = WIDTH * ratio;
  canvas.height = HEIGHT * ratio;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  const scale = Math.min((WIDTH - 10) / Math.max(1, box.right - box.left), (HEIGHT - 10) / Math.max(1, box.bottom - box.top), 1);
  const view = { scale, x: (box.left + box.right) / 2 - WIDTH / 2 / scale, y: (box.top + box.bottom) / 2 - HEIGHT / 2 / scale };
  drawPrints(ctx, trace, trace.end - 1, view, readInks());
}
