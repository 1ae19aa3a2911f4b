import type { Page } from 'playwright-core';

/** Where a world point is on the page: the ground is fitted into the sheet with these margins. */
export async function pointOf(page: Page): Promise<(x: number, y: number) => [number, number]> {
  const box = await page.getByTestId('ground').boundingBox();
  if (!box) throw new Error('there is no sheet');
  const margin = { top: 34, right: 40, bottom: 22, left: 12 };
  const [width, height] = [box.width - margin.left - margin.right, box.height - margin.top - margin.bottom];
  const scale = Math.min(width / 640, height / 384);
  const [x, y] = [320 - (margin.left + width / 2) / scale, 192 - (margin.top + height / 2) / scale];
  return (wx, wy) => [box.x + (wx - x) * scale, box.y + (wy - y) * scale];
}

/** Drags from one place of the page to another. */
export async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2);
  await page.mouse.move(...to);
  await page.mouse.up();
}
