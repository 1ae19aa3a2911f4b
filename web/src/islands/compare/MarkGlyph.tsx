import { markCorners, markOfSide } from './marks.ts';

/** The mark of a side, as in the drawings. */
export function MarkGlyph({ index, size = 5 }: { index: number; size?: number }) {
  const { shape, text } = markOfSide(index);
  const box = size * 3.2;
  const style = { fill: 'var(--sheet)', stroke: 'currentColor', strokeWidth: 2 };
  return (
    <svg aria-hidden="true" width={box} height={box} viewBox={`${-box / 2} ${-box / 2} ${box} ${box}`} className={`shrink-0 ${text}`}>
      {shape === 'circle' ? <circle r={size} {...style} /> : <polygon points={markCorners(shape, size * 0.92).join(' ')} {...style} />}
    </svg>
  );
}
