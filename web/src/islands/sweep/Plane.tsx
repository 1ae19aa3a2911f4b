import { useStore } from '@nanostores/react';
import { shortNumber } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { $theme, readInks } from '../chart/theme.ts';
import { useSweep } from './context.ts';
import { labelPlace, pathText } from './contourLines.ts';
import { paintHeat } from './heat.ts';
import { MARGIN } from './layout.ts';
import type { Swept } from './measuring.ts';
import { PlaneAxes } from './PlaneAxes.tsx';
import { PlaneMarks } from './PlaneMarks.tsx';
import { useBox } from './useBox.ts';
import { usePlane } from './usePlane.ts';
import { axisTitle, metricWords, placeWords, shownWords } from './words.ts';
import { type CellBox, zoomInto } from './zoom.ts';

/** Pixels of a drag from which it is a rectangle. */
const DRAG = 6;
/** Width of the note at the pointer, px, about. */
const NOTE = 280;

/** A metric over two axes: depths in colour, contours with their values, the target's band, tunings, and the cell that is looked at. */
export function Plane({ swept }: { swept: Swept }) {
  const work = useSweep();
  const { unit = 'px' } = useStore(work.work.editing.$now);
  const { shown } = useStore(work.$choice);
  const at = useStore(work.$at);
  const theme = useStore($theme);
  const [box, own] = useBox<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [drag, setDrag] = useState<CellBox | null>(null);
  const began = useRef<[number, number] | null>(null);
  const { sweep } = swept;
  const { width, height } = sweep;
  const { axes } = sweep.definition;
  const [wide, tall] = [Math.max(1, box.width - MARGIN.left - MARGIN.right), Math.max(1, box.height - MARGIN.top - MARGIN.bottom)];
  const [sx, sy] = [wide / width, tall / height];

  const drawn = usePlane(swept, shown);
  const { lines, rings, ends, endLines, step } = drawn;
  // Lines of a large plane come from every so many of its cells.
  const [lx, ly] = [sx * step, sy * step];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the inks are the theme's
  useEffect(() => {
    if (canvas.current) paintHeat(canvas.current, drawn.grid, width, height, drawn.levels, readInks());
  }, [drawn, width, height, theme]);

  const cellAt = (event: PointerEvent<HTMLElement>): [number, number] => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    const [x, y] = [(event.clientX - left - MARGIN.left) / sx, (event.clientY - top - MARGIN.top) / sy];
    return [Math.min(width - 1, Math.max(0, Math.floor(x))), Math.min(height - 1, Math.max(0, Math.floor(y)))];
  };
  const move = (event: PointerEvent<HTMLElement>) => {
    const [x, y] = cellAt(event);
    const from = began.current;
    if (from && (event.buttons & 1) === 1) {
      const { left, top } = event.currentTarget.getBoundingClientRect();
      const isDragged = Math.hypot(event.clientX - left - from[0], event.clientY - top - from[1]) > DRAG;
      if (isDragged || drag) {
        const [x0, y0] = [Math.floor((from[0] - MARGIN.left) / sx), Math.floor((from[1] - MARGIN.top) / sy)];
        setDrag({ left: Math.min(x0, x), right: Math.max(x0, x), top: Math.min(y0, y), bottom: Math.max(y0, y) });
        return;
      }
    }
    if (!work.$isPinned.get()) work.$at.set(y * width + x);
  };
  const press = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    const { left, top } = event.currentTarget.getBoundingClientRect();
    began.current = [event.clientX - left, event.clientY - top];
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const release = (event: PointerEvent<HTMLElement>) => {
    began.current = null;
    if (drag) {
      setDrag(null);
      work.goTo({ over: zoomInto(axes, drag) });
      return;
    }
    const [x, y] = cellAt(event);
    work.press(y * width + x);
  };
  const key = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const delta = (
      { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] } as Record<string, [number, number]>
    )[event.key];
    if (event.key === 'Escape') {
      work.$isPinned.set(false);
      work.$at.set(null);
    } else if (event.key === 'Enter') work.$isPinned.set(work.$at.get() !== null && !work.$isPinned.get());
    if (!delta) return;
    event.preventDefault();
    event.stopPropagation();
    const from = work.$at.get() ?? Math.floor(height / 2) * width + Math.floor(width / 2);
    const x = Math.min(width - 1, Math.max(0, (from % width) + delta[0]));
    const y = Math.min(height - 1, Math.max(0, Math.floor(from / width) + delta[1]));
    work.goToCell(y * width + x);
  };

  // The ends of the band have their values first; contours beside them go without.
  const labels = placed(
    [
      ...ends.map((value, i) => ({ value, isEnd: true, at: labelPlace(endLines[i] ?? [], 5) })),
      ...drawn.levels.values.map((value, i) => ({ value, isEnd: false, at: shown === 'met' ? null : labelPlace(lines[i] ?? [], 5) })),
    ],
    [lx, ly],
    [wide, tall],
  );
  const place = at === null ? null : { x: at % width, y: Math.floor(at / width) };
  const value = at === null ? Number.NaN : (drawn.grid[at] as number);
  return (
    <div
      ref={own}
      role="application"
      aria-label={`${shownWords(shown)} over ${axes.map((axis) => axisTitle(axis, unit)).join(' and ')}. Arrow keys move by a cell.`}
      tabIndex={0}
      className="absolute inset-0 cursor-crosshair touch-none outline-offset-[-2px]"
      data-testid="plane"
      data-done={sweep.done}
      data-cells={sweep.cells}
      onPointerMove={move}
      onPointerDown={press}
      onPointerUp={release}
      onPointerLeave={() => !work.$isPinned.get() && work.$at.set(null)}
      onKeyDown={key}
    >
      <canvas
        ref={canvas}
        className="absolute [image-rendering:pixelated]"
        style={{ left: MARGIN.left, top: MARGIN.top, width: wide, height: tall }}
      />
      {box.height > 0 && (
        <svg aria-hidden="true" width={box.width} height={box.height} className="absolute inset-0 overflow-hidden">
          <defs>
            <pattern id="band" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1="0" y1="0" x2="0" y2="5" stroke="var(--route)" strokeWidth="1" strokeOpacity="0.55" />
            </pattern>
            <clipPath id="plane">
              <rect width={wide} height={tall} />
            </clipPath>
          </defs>
          <g transform={`translate(${MARGIN.left} ${MARGIN.top})`}>
            <g clipPath="url(#plane)">
              {rings.length > 0 && (
                <path d={`${rings.map((ring) => pathText(ring, lx, ly)).join('')}Z`} fill="url(#band)" fillRule="evenodd" />
              )}
              {lines.map((own, i) => (
                <path
                  key={drawn.levels.values[i]}
                  d={own.map((line) => pathText(line, lx, ly)).join('')}
                  fill="none"
                  stroke={shown === 'met' ? 'var(--route)' : 'var(--ink-soft)'}
                  strokeWidth={shown === 'met' ? 2 : 0.9}
                  strokeOpacity={0.8}
                />
              ))}
              {endLines.map((own, i) => (
                <path
                  key={ends[i]}
                  d={own.map((line) => pathText(line, lx, ly)).join('')}
                  fill="none"
                  stroke="var(--route)"
                  strokeWidth="2"
                />
              ))}
              {sweep.holes.map(({ at: [x = 0, y = 0] }) => (
                <path
                  key={`${x} ${y}`}
                  d={`M${x * sx},${y * sy}l${sx},${sy}m0,${-sy}l${-sx},${sy}`}
                  stroke="var(--hatch)"
                  strokeWidth="0.8"
                />
              ))}
            </g>
            {labels.map(({ value: level, isEnd, x, y }) => (
              <g key={`${level} ${isEnd}`} transform={`translate(${x} ${y})`}>
                <rect x={-13} y={-7} width={26} height={14} fill="var(--sheet)" fillOpacity="0.86" />
                <text
                  textAnchor="middle"
                  dominantBaseline="central"
                  className="digits"
                  fontSize="10.5"
                  fontWeight={isEnd ? 600 : 400}
                  fill={isEnd ? 'var(--route)' : 'var(--ink)'}
                >
                  {shortNumber(level, 3)}
                </text>
              </g>
            ))}
            <rect width={wide} height={tall} fill="none" stroke="var(--ink)" strokeWidth="1" />
            <PlaneMarks swept={swept} sx={sx} sy={sy} wide={wide} tall={tall} />
            {drag && (
              <rect
                x={drag.left * sx}
                y={drag.top * sy}
                width={(drag.right - drag.left + 1) * sx}
                height={(drag.bottom - drag.top + 1) * sy}
                fill="var(--now)"
                fillOpacity="0.1"
                stroke="var(--now)"
              />
            )}
            {place && !drag && (
              <g stroke="var(--now)">
                <line x1={(place.x + 0.5) * sx} x2={(place.x + 0.5) * sx} y1={0} y2={tall} strokeDasharray="2 3" />
                <line y1={(place.y + 0.5) * sy} y2={(place.y + 0.5) * sy} x1={0} x2={wide} strokeDasharray="2 3" />
                <circle cx={(place.x + 0.5) * sx} cy={(place.y + 0.5) * sy} r="5.5" fill="var(--sheet)" strokeWidth="2.2" />
              </g>
            )}
          </g>
          <PlaneAxes swept={swept} wide={wide} tall={tall} sx={sx} sy={sy} unit={unit} />
        </svg>
      )}
      {place && !drag && (
        <p
          aria-live="polite"
          className="digits pointer-events-none absolute border border-now bg-sheet px-1.5 py-0.5 text-[11px] whitespace-nowrap"
          data-testid="cell-value"
          style={{
            ...((place.x + 0.5) * sx < wide - NOTE
              ? { left: MARGIN.left + (place.x + 0.5) * sx + 9 }
              : { right: MARGIN.right + wide - (place.x + 0.5) * sx + 9 }),
            ...(place.y < height * 0.8
              ? { top: MARGIN.top + (place.y + 0.5) * sy + 9 }
              : { bottom: MARGIN.bottom + tall - (place.y + 0.5) * sy + 9 }),
          }}
        >
          <span className="text-now">
            {shown === 'met'
              ? value === 1
                ? 'meets all targets'
                : 'misses a target'
              : `${shownWords(shown)} ${metricWords(shown, value, unit)}`}
          </span>
          <br />
          {placeWords(
            axes,
            sweep.placesOf(at as number).map((index, i) => axes[i]?.values[index] ?? ''),
            unit,
          )}
        </p>
      )}
    </div>
  );
}

/** The value of a line, and whether it is an end of the target's band. */
interface Label {
  value: number;
  isEnd: boolean;
}

/** Pixels from the edge of the plane within which no label fits. */
const EDGE = 12;

/** Labels that lie within the plane and not on each other, in px; the first ones come first. */
function placed(
  labels: readonly (Label & { at: [number, number] | null })[],
  [sx, sy]: readonly [number, number],
  [wide, tall]: readonly [number, number],
): (Label & { x: number; y: number })[] {
  const kept: (Label & { x: number; y: number })[] = [];
  for (const { at, ...label } of labels) {
    if (!at) continue;
    const [x, y] = [at[0] * sx, at[1] * sy];
    if (x < EDGE || x > wide - EDGE || y < EDGE || y > tall - EDGE) continue;
    if (kept.every((other) => Math.abs(other.x - x) > 32 || Math.abs(other.y - y) > 18)) kept.push({ ...label, x, y });
  }
  return kept;
}
