import { useStore } from '@nanostores/react';
import { type StaminaCycle, shortNumber, staminaCycle } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { TargetBar, useTarget } from './TargetBar.tsx';

const WIDTH = 268;
const HEIGHT = 112;
const BASE = HEIGHT - 18;
/** Height of the band that shows the pace while spent, at factor 1. */
const PACE = 34;
type Scale = (value: number) => number;
const seconds = (value: number) => (value === Infinity ? 'for ever' : `${shortNumber(value, 1)} s`);

/** The bar over one sprint to empty, the regain delay, and the recovery to full. */
export function StaminaFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning).parameters;
  const { stamina } = parameters;
  const { unit } = drive.world.ground;
  const cycle = staminaCycle({ ...parameters, stamina: { ...stamina, enabled: true } });
  const lasts = useTarget('sprintTime');
  const back = useTarget('recoverTime');
  const [frozen, freeze] = useState<{ span: number; top: number } | null>(null);

  const shape = ({ max, drain, regain, regainDelay }: typeof stamina) => {
    const empty = drain > 0 ? max / drain : 30;
    const full = empty + regainDelay + (regain > 0 ? max / regain : 30);
    return { empty, wait: empty + regainDelay, full };
  };
  const at = shape(stamina);
  const ghost = shape(before.stamina);
  const changed = JSON.stringify(stamina) !== JSON.stringify(before.stamina);
  // The walking regain is shown up to its half, so that a slow one does not squeeze the rest.
  const walking = stamina.regain * stamina.regainMovingFactor;
  const half = at.wait + (walking > 0 ? stamina.max / 2 / walking : 30);
  const span = frozen?.span ?? Math.max(at.full, changed ? ghost.full : 0) * 1.05;
  const top = frozen?.top ?? stamina.max;
  const x = scaleLinear([0, span], [8, WIDTH - 8]);
  const y = scaleLinear([0, top], [BASE, 10]);
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);
  const hold = { began: () => freeze({ span, top }), ended: () => freeze(null) };
  const bar = ({ empty, wait, full }: typeof at, max: number) =>
    `M${x(0)},${y(max)} L${x(empty)},${y(0)} H${x(wait)} L${x(full)},${y(max)}`;
  const level = (value: number) => Math.min(stamina.max, value);
  const amount = (py: number) => Math.round(Math.min(stamina.max, Math.max(0, y.invert(py))));
  /** The share of the regain that brings `level` in `time` seconds of walking. */
  const movingFactor = (time: number, level: number) =>
    stamina.regain > 0 ? Math.max(0, Math.round((Math.max(0, level) / Math.max(0.05, time) / stamina.regain) * 100) / 100) : 0;
  const halfAt = Math.min(half, span);
  const recovered = Math.min(span, at.wait + (stamina.regain > 0 ? level(stamina.recoverTo) / stamina.regain : span));
  const crowded = Math.abs(y(level(stamina.recoverTo)) - y(level(stamina.startAt))) < 14;
  const spentTop = BASE - Math.min(2, stamina.spentFactor) * PACE;

  return (
    <FigureFrame
      number={number}
      id="stamina"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className={`w-full shrink-0 select-none ${stamina.enabled ? '' : 'opacity-60'}`}
          role="group"
          aria-label="Stamina over a sprint to empty and back"
        >
          <path d={`M8,4 V${BASE} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          <rect x={x(at.empty)} y={spentTop} width={x(recovered) - x(at.empty)} height={BASE - spentTop} className="fill-stamina/20" />
          <path
            d={`M${x(at.wait)},${y(0)} L${x(halfAt)},${y(half <= span ? stamina.max / 2 : walking * (span - at.wait))}`}
            className="fill-none stroke-stamina"
            strokeDasharray="2 3"
            strokeWidth="1.6"
          />
          <path d={lumps(stamina, at.empty, x, y)} className="fill-none stroke-ink" strokeWidth="1" />
          {changed && (
            <path d={bar(ghost, before.stamina.max)} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.4" />
          )}
          {lasts && <TargetBar target={lasts} words="sprint lasts" level={BASE} place={x} edge={WIDTH - 4} />}
          {back && (
            <TargetBar
              target={back}
              words="sprints again after"
              level={y(level(Math.max(stamina.startAt, stamina.recoverTo)))}
              place={(time) => x(at.empty + time)}
              edge={WIDTH - 4}
            />
          )}
          <path d={bar(at, stamina.max)} className="fill-none stroke-stamina" strokeWidth="2.2" strokeLinejoin="round" />
          <Level y={y(level(stamina.recoverTo))} words={`again ${shortNumber(stamina.recoverTo)}`} dash="5 3" x={20} />
          <Level y={y(level(stamina.startAt))} words={`start ${shortNumber(stamina.startAt)}`} dash="1.5 3" x={crowded ? 178 : 20} />
          <text x={(x(0) + x(at.empty)) / 2 + 8} y={y(stamina.max * 0.72)} className="digits fill-ink-soft text-[10px]">
            {seconds(at.empty)}
          </text>
          <text
            x={(x(at.wait) + x(at.full)) / 2 + 2}
            y={y(stamina.max * 0.78)}
            textAnchor="end"
            className="digits fill-ink-soft text-[10px]"
          >
            {seconds(at.full - at.wait)}
          </text>
          <Handle
            x={x(at.empty)}
            y={y(0)}
            label="Time until empty"
            value={seconds(at.empty)}
            number={at.empty}
            drag={(px) => set('stamina.drain', stamina.max / Math.max(0.05, x.invert(px)))}
            nudge={(across, along) => set('stamina.drain', stamina.max / Math.max(0.05, at.empty + (across + along) * 0.1))}
            {...hold}
          />
          <Handle
            x={Math.max(x(at.wait), x(at.empty) + 12)}
            y={y(0)}
            label="Regain delay"
            value={seconds(stamina.regainDelay)}
            number={stamina.regainDelay}
            drag={(px) => set('stamina.regainDelay', Math.max(0, x.invert(px) - at.empty))}
            nudge={(across, along) => set('stamina.regainDelay', stamina.regainDelay + (across + along) * 0.05)}
            {...hold}
          />
          <Handle
            x={x(at.full)}
            y={y(stamina.max)}
            label="Time from empty to full"
            value={seconds(at.full - at.wait)}
            number={at.full - at.wait}
            drag={(px) => set('stamina.regain', stamina.max / Math.max(0.05, x.invert(px) - at.wait))}
            nudge={(across, along) => set('stamina.regain', stamina.max / Math.max(0.05, at.full - at.wait + (across + along) * 0.1))}
            {...hold}
          />
          <Handle
            x={WIDTH - 8}
            y={y(level(stamina.recoverTo))}
            label="Sprint again at"
            value={shortNumber(stamina.recoverTo)}
            number={stamina.recoverTo}
            drag={(_px, py) => set('stamina.recoverTo', amount(py))}
            nudge={(across, along) => set('stamina.recoverTo', stamina.recoverTo + across + along)}
          />
          <Handle
            x={8}
            y={y(level(stamina.startAt))}
            label="Stamina needed to start"
            value={shortNumber(stamina.startAt)}
            number={stamina.startAt}
            drag={(_px, py) => set('stamina.startAt', amount(py))}
            nudge={(across, along) => set('stamina.startAt', stamina.startAt + across + along)}
          />
          <Handle
            x={8}
            y={y(stamina.max)}
            label="Full bar"
            value={shortNumber(stamina.max)}
            number={stamina.max}
            drag={(_px, py) => set('stamina.max', Math.max(1, Math.round(y.invert(py))))}
            nudge={(across, along) => set('stamina.max', Math.max(1, stamina.max + across + along))}
            {...hold}
          />
          <Handle
            x={x(halfAt)}
            y={y(half <= span ? stamina.max / 2 : walking * (span - at.wait))}
            label="Time to regain half a bar walking"
            value={`in ${seconds(walking > 0 ? half - at.wait : Infinity)}, × ${shortNumber(stamina.regainMovingFactor)}`}
            number={stamina.regainMovingFactor}
            drag={(px, py) => set('stamina.regainMovingFactor', movingFactor(x.invert(px) - at.wait, y.invert(py)))}
            nudge={(across, along) => set('stamina.regainMovingFactor', stamina.regainMovingFactor + (along - across) * 0.05)}
            {...hold}
          />
          <Handle
            x={(x(at.empty) + x(recovered)) / 2}
            y={spentTop}
            label="Speed when spent"
            value={`× ${shortNumber(stamina.spentFactor)}`}
            number={stamina.spentFactor}
            drag={(_px, py) => set('stamina.spentFactor', Math.max(0, Math.round(((BASE - py) / PACE) * 20) / 20))}
            nudge={(across, along) => set('stamina.spentFactor', stamina.spentFactor + (across + along) * 0.05)}
          />
          <Handle
            x={x(Math.min(span, stamina.interval))}
            y={HEIGHT - 6}
            label="Tick interval"
            value={stamina.interval === 0 ? 'none: continuous' : `every ${shortNumber(stamina.interval)} s`}
            number={stamina.interval}
            drag={(px) => set('stamina.interval', Math.max(0, Math.round(x.invert(px) * 20) / 20))}
            nudge={(across, along) => set('stamina.interval', stamina.interval + (across + along) * 0.05)}
            {...hold}
          />
          <text x={x(Math.min(span, stamina.interval)) + 9} y={HEIGHT - 2.5} className="digits fill-ink-soft text-[10px]">
            {stamina.interval === 0 ? 'continuous' : `in steps of ${shortNumber(stamina.drain * stamina.interval, 1)}`}
          </text>
        </svg>
      }
      more={{ 'stamina.enabled': <Cycle cycle={cycle} unit={unit} /> }}
    />
  );
}

/** The drain as it comes at intervals: stairs under the line. Empty where it is continuous. */
function lumps({ interval, drain, max }: { interval: number; drain: number; max: number }, empty: number, x: Scale, y: Scale): string {
  if (interval === 0 || empty / interval > 200) return '';
  let path = `M${x(0)},${y(max)}`;
  for (let time = interval, left = max; time - interval < empty; time += interval) {
    left = Math.max(0, left - drain * interval);
    path += ` H${x(time)} V${y(left)}`;
  }
  return path;
}

function Level({ y, words, dash, x }: { y: number; words: string; dash: string; x: number }) {
  return (
    <>
      <line x1="8" x2={WIDTH - 4} y1={y} y2={y} className="stroke-now" strokeDasharray={dash} strokeWidth="1" />
      <text x={x} y={y - 3} className="digits fill-now text-[10px]">
        {words}
      </text>
    </>
  );
}

/** Results of the numbers over a long run. */
function Cycle({ cycle, unit }: { cycle: StaminaCycle; unit: string }) {
  return (
    <p className="digits border-t border-rule/60 py-[3px] text-[11px] leading-4 text-ink-soft" data-testid="cycle">
      lasts {seconds(cycle.lasts)} · {cycle.distance === Infinity ? 'no end' : `${shortNumber(cycle.distance, 0)} ${unit}`} a bar · sprints{' '}
      {Math.round(cycle.share * 100)} % of a long run, mean {shortNumber(cycle.meanSpeed, 0)} {unit}/s
    </p>
  );
}
