import { RADIUS } from './carrier.ts';
import { boxes, type LetterRun } from './letterRun.ts';

const ground = '#f4ecd8';
const dark = '#2b2118';
const wood = '#b98d5a';
const pool = '#9cc3c4';
const letter = '#b5412f';
const coat = '#3c5d3a';

/** Draws the town, the letters that are left, and the carrier with its strength. */
export function draw(ctx: CanvasRenderingContext2D, { town, carrier, left }: LetterRun): void {
  ctx.fillStyle = ground;
  ctx.fillRect(0, 0, town.width, town.height);
  ctx.fillStyle = pool;
  for (const [row, marks] of town.cells.entries())
    for (const [column, mark] of [...marks].entries())
      if (mark in town.pools) ctx.fillRect(column * town.cell, row * town.cell, town.cell, town.cell);
  ctx.strokeStyle = dark;
  ctx.lineWidth = 2;
  ctx.fillStyle = wood;
  for (const { points, isClosed } of town.outlines) {
    ctx.beginPath();
    for (const [x, y] of points) ctx.lineTo(x, y);
    if (isClosed) {
      ctx.closePath();
      ctx.fill();
    }
    ctx.stroke();
  }
  ctx.fillStyle = letter;
  for (const box of left) {
    const [x, y] = boxes[box] as readonly [number, number];
    ctx.fillRect(x - 7, y - 5, 14, 10);
  }
  const { x, y, facing, stamina, numbers } = carrier;
  ctx.fillStyle = coat;
  ctx.beginPath();
  ctx.arc(x, y, RADIUS, 0, 2 * Math.PI);
  ctx.fill();
  const angle = (facing * Math.PI) / 180;
  ctx.beginPath();
  ctx.moveTo(x, y);
  ctx.lineTo(x + Math.cos(angle) * (RADIUS + 6), y + Math.sin(angle) * (RADIUS + 6));
  ctx.stroke();
  ctx.strokeRect(x - 16, y - 24, 32, 5);
  ctx.fillStyle = letter;
  ctx.fillRect(x - 16, y - 24, (32 * stamina) / Math.max(numbers.stam_max, 1e-6), 5);
}
