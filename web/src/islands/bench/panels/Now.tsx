import { compassName, type Parameters, type Trace } from '@zygopod/core';
import { type RefObject, useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { write } from '../../controls/inPlace.ts';
import { useTuning } from '../../tuning/context.ts';
import { Hands } from './Hands.tsx';
import { StaminaBar } from './StaminaBar.tsx';

const gaitWords = ['Stand', 'Walk', 'Sprint', 'Spent'];
const gaitTones = ['bg-rule text-ink', 'bg-ink-soft text-sheet', 'bg-now text-sheet', 'bg-stamina-ink text-sheet'];

/** Measures how long the gait of a row has lasted (s). Only rows after the last one requested are read. */
function gaitClock(): (trace: Trace, row: number) => number {
  let known: { trace: Trace; clears: number; row: number; first: number } | null = null;
  return (trace, row) => {
    const isOn = known?.trace === trace && known.clears === trace.clears && row >= known.row && known.row >= trace.first;
    let first = row;
    const back = isOn && known ? known.row : trace.first;
    while (first > back && trace.at('gait', first - 1) === trace.at('gait', row)) first--;
    if (isOn && known && first === known.row && trace.at('gait', first) === trace.at('gait', row)) first = known.first;
    first = Math.max(first, trace.first);
    known = { trace, clears: trace.clears, row, first };
    return trace.at('time', row) - trace.at('time', Math.max(trace.first, first - 1));
  };
}

/** Shows the body's state at the visible moment: now, or the selected one. */
export function Now() {
  const { drive } = useTuning();
  const speed = useRef<HTMLSpanElement>(null);
  const gait = useRef<HTMLSpanElement>(null);
  const since = useRef<HTMLSpanElement>(null);
  const facing = useRef<HTMLElement>(null);
  const place = useRef<HTMLElement>(null);
  const edge = useRef<HTMLElement>(null);
  const contact = useRef<HTMLElement>(null);
  const toGo = useRef<HTMLElement>(null);
  const gaitSince = useRef(gaitClock());
  const { unit } = drive.world.ground;

  usePainter(() => {
    const { trace, parameters, ground } = drive.world;
    const { row } = drive;
    const index = trace.at('gait', row);
    const degrees = trace.at('facing', row);
    write(speed.current, trace.at('speed', row).toFixed(trace.at('speed', row) >= 1000 ? 0 : 1));
    write(gait.current, gaitWords[index] ?? '');
    const tone = `px-2 font-semibold ${gaitTones[index] ?? ''}`;
    if (gait.current && gait.current.className !== tone) gait.current.className = tone;
    write(since.current, `for ${gaitSince.current(trace, row).toFixed(1)} s`);
    write(facing.current, `${compassName((degrees * Math.PI) / 180, parameters.facing.directions)} ${Math.round(degrees)}°`);
    write(place.current, `${trace.at('x', row).toFixed(1)}, ${trace.at('y', row).toFixed(1)}`);
    write(edge.current, `${edgeDistance(trace.at('x', row), trace.at('y', row), parameters.body, ground.size).toFixed(1)} ${unit}`);
    write(contact.current, contactWords(trace, row));
    const rest = trace.at('toGo', row);
    write(toGo.current, rest > 0 ? `${rest.toFixed(0)} ${unit}, ${timeToGo(drive.world.parameters, rest)}` : '–');
  });

  return (
    // A layer of its own: its numbers change in each frame, and would have the page around them painted again.
    <section
      aria-label="Now"
      className="flex min-h-0 will-change-transform flex-col overflow-y-auto border-r border-rule bg-paper px-3 py-1.5"
    >
      <div className="flex items-center justify-between gap-2">
        <h2 className="sr-only">Now</h2>
        <span ref={gait} data-testid="gait" />
        <span ref={since} className="digits text-xs whitespace-nowrap text-ink-soft" />
      </div>
      <p className="digits mt-0.5 text-[34px] leading-9 font-medium tracking-tight" data-testid="speed">
        <span ref={speed}>0.0</span>
        <span className="ml-1.5 text-sm font-normal tracking-normal text-ink-soft">{unit}/s</span>
      </p>
      <StaminaBar />
      <dl className="mt-1.5 grid grid-cols-[auto_1fr] gap-y-px">
        <Reading label="Facing" to={facing} />
        <Reading label="At" to={place} />
        <Reading label="Contact" to={contact} />
        <Reading label="Edge" to={edge} />
        <Reading label="To go" to={toGo} />
      </dl>
      <Hands />
    </section>
  );
}

/** Seconds for the rest of a path at walk speed, plus the extra time for braking. */
function timeToGo({ pace, route, ramp }: Parameters, rest: number): string {
  if (pace.walkSpeed <= 0) return 'never';
  const braking = route.brake ? pace.walkSpeed / ramp.decelerate / 2 : 0;
  return `${(rest / pace.walkSpeed + braking).toFixed(1)} s`;
}

/** `slides at 27°`, `stopped`, `edge N`: what holds the body at a row. */
function contactWords(trace: Trace, row: number): string {
  const met = trace.contacts.at(row);
  const sides = trace.at('edge', row);
  const edges = ['W', 'E', 'N', 'S'].filter((_, i) => sides & (1 << i)).join(' ');
  const wall = met && `${trace.at('speed', row) > 0.5 ? 'slides' : 'stopped'} at ${Math.round((met.angle * 180) / Math.PI)}°`;
  return [wall, edges && `edge ${edges}`].filter(Boolean).join(', ') || 'none';
}

function Reading({ label, to }: { label: string; to: RefObject<HTMLElement | null> }) {
  return (
    <>
      <dt className="text-ink-soft">{label}</dt>
      <dd ref={to} className="digits text-right" data-testid={`now-${label.toLowerCase().replace(' ', '-')}`} />
    </>
  );
}

/** Room between the body and the nearest edge of the ground. */
function edgeDistance(
  x: number,
  y: number,
  body: { shape: string; radius: number; width: number; height: number; originX: number; originY: number },
  size: { width: number; height: number },
): number {
  const width = body.shape === 'circle' ? 2 * body.radius : body.width;
  const height = body.shape === 'circle' ? 2 * body.radius : body.height;
  const left = x - body.originX * width;
  const top = y - body.originY * height;
  return Math.min(left, top, size.width - left - width, size.height - top - height);
}
