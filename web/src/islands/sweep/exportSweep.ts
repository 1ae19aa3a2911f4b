import { fileStem, sweepCsv, sweepReport } from '@zygopod/core';
import { download, downloadBytes } from '../controls/download.ts';
import { svgOf } from './sweepPicture.ts';
import type { SweepWork } from './sweepWork.ts';

/** Device pixels of a PNG for one of the page. */
const SHARP = 2;

const stemOf = ({ work }: SweepWork): string => `${fileStem(work.editing.$now.get().name)}-sweep`;

/** Draws an SVG text as a PNG. */
async function pngOf(svg: string): Promise<Uint8Array<ArrayBuffer> | null> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.width * SHARP;
  canvas.height = image.height * SHARP;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((over) => canvas.toBlob(over, 'image/png'));
  return blob && new Uint8Array(await blob.arrayBuffer());
}

/** The files that a sweep is exported as. */
export const exports: readonly { label: string; run(sweep: SweepWork): Promise<void> | void }[] = [
  {
    label: 'CSV',
    run: (sweep) => {
      const swept = sweep.$swept.get();
      if (swept) download(`${stemOf(sweep)}.csv`, [...sweepCsv(swept.sweep)].join(''), 'text/csv');
    },
  },
  {
    label: 'JSON',
    run: (sweep) => {
      const swept = sweep.$swept.get();
      if (swept) download(`${stemOf(sweep)}.json`, `${JSON.stringify(sweepReport(swept.sweep, sweep.$progress.get().took))}\n`);
    },
  },
  {
    label: 'SVG',
    run: (sweep) => {
      const svg = svgOf();
      if (svg) download(`${stemOf(sweep)}.svg`, svg, 'image/svg+xml');
    },
  },
  {
    label: 'PNG',
    run: async (sweep) => {
      const svg = svgOf();
      const png = svg && (await pngOf(svg).catch(() => null));
      if (png) downloadBytes(`${stemOf(sweep)}.png`, png, 'image/png');
      else sweep.$trouble.set('The picture couldn’t be drawn in this browser; the SVG has the same contents.');
    },
  },
];
