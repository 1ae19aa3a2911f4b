import type { Ground } from '@zygopod/core';
import { type PointerEvent, useRef } from 'react';
import { drawGround } from './drawGround.ts';
import { usePainter } from './frames.ts';
import type { Inks } from './theme.ts';
import { isAllInSight, MAP_HEIGHT, type Size, type View } from './view.ts';

/** The largest that a map may be, CSS pixels. */
const LARGEST = { width: 150, height: MAP_HEIGHT };
const EDGE = 1;

/** Content of the map, read in each frame. */
interface Shown {
  ground: Ground;
  /** Changes with the ground and its inks; the map is then redrawn. */
  version: string;
  view: View | null;
  canvas: Size;
  x: number;
  y: number;
}

/** A small map of the whole ground: the part in sight, and where the body is. A press goes there. Hidden while all is in sight. */
export function Overview({ look, inks, go }: { look(): Shown; inks(): Inks; go(x: number, y: number): void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheet = useRef<HTMLCanvasElement | null>(null);
  const drawn = useRef('');
  const scale = useRef(1);
  usePainter(() => {
    const element = canvas.current;
    if (!element) return;
    const { ground, version, view, canvas: size, x, y } = look();
    const isAll = !view || isAllInSight(ground.size, view, size);
    if (element.hidden !== isAll) element.hidden = isAll;
    if (isAll) return;
    scale.current = Math.min(LARGEST.width / ground.size.width, LARGEST.height / ground.size.height);
    const ratio = window.devicePixelRatio || 1;
    const width = Math.max(8, ground.size.width * scale.current);
    const height = Math.max(8, ground.size.height * scale.current);
    const key = `${version} ${ratio}`;
    if (drawn.current !== key) {
      drawn.current = key;
      sheet.current = drawMap(ground, inks(), scale.current, width, height, ratio);
      resize(element, width, height, ratio);
    }
    const ctx = element.getContext('2d');
    if (!ctx || !sheet.current) return;
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.drawImage(sheet.current, 0, 0, width, height);
    markView(ctx, view, size, x, y, scale.current, inks());
  });
  const press = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.type === 'pointermove' && event.buttons !== 1) return;
    if (event.type === 'pointerdown') event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.getBoundingClientRect();
    go((event.clientX - box.left - EDGE) / scale.current, (event.clientY - box.top - EDGE) / scale.current);
  };
  return (
    <canvas
      ref={canvas}
      hidden
      role="img"
      aria-label="Map of the whole ground, with the part in sight"
      title="Press to move the view there; double-click the yard to go back"
      className="absolute top-2 right-2 box-content cursor-pointer touch-none border border-rule bg-sheet"
      onPointerDown={press}
      onPointerMove={press}
      data-testid="overview"
    />
  );
}

function resize(element: HTMLCanvasElement, width: number, height: number, ratio: number): void {
  element.width = Math.round(width * ratio);
  element.height = Math.round(height * ratio);
  element.style.width = `${width}px`;
  element.style.height = `${height}px`;
}

function drawMap(ground: Ground, ink: Inks, scale: number, width: number, height: number, ratio: number): HTMLCanvasElement {
  const map = document.createElement('canvas');
  map.width = Math.round(width * ratio);
  map.height = Math.round(height * ratio);
  const ctx = map.getContext('2d') as CanvasRenderingContext2D;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  drawGround(ctx, ground, { scale, x: 0, y: 0 }, width, height, ink, { grid: false, frame: false });
  return map;
}

/** The part in sight as a frame, the body as a dot. */
function markView(ctx: CanvasRenderingContext2D, view: View, size: Size, x: number, y: number, scale: number, ink: Inks): void {
  ctx.strokeStyle = ink.now;
  ctx.fillStyle = ink.now;
  ctx.lineWidth = 1;
  ctx.strokeRect(
    Math.round(view.x * scale) + 0.5,
    Math.round(view.y * scale) + 0.5,
    (size.width / view.scale) * scale,
    (size.height / view.scale) * scale,
  );
  ctx.beginPath();
  ctx.arc(x * scale, y * scale, 2.5, 0, 2 * Math.PI);
  ctx.fill();
}
