import { useStore } from '@nanostores/react';
import { shortNumber, staminaCycle } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { useBench } from '../context.ts';
import { ChoiceField, FlagField } from '../fields/ChoiceField.tsx';
import { putNumber, useParameter } from '../fields/model.ts';
import { NumberField } from '../fields/NumberField.tsx';
import { FigureFrame } from './FigureFrame.tsx';
import { Handle } from './Handle.tsx';

const WIDTH = 268;
const HEIGHT = 106;
const BASE = HEIGHT - 12;
const seconds = (value: number) => (value === Infinity ? 'for ever' : `${shortNumber(value, 1)} s`);

/** The bar over one sprint to empty, the wait, and the way back to full. */
export function StaminaFigure({ number }: { number: number }) {
  const { editing, drive } = useBench();
  const { parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning).parameters;
  const { stamina } = parameters;
  const { unit } = drive.world.ground;
  const cycle = staminaCycle({ ...parameters, stamina: { ...stamina, enabled: true } });
  const [frozen, freeze] = useState<number | null>(null);

  const shape = ({ max, drain, regain, regainDelay }: typeof stamina) => {
    const empty = drain > 0 ? max / drain : 30;
    const full = empty + regainDelay + (regain > 0 ? max / regain : 30);
    return { empty, wait: empty + regainDelay, full };
  };
  const at = shape(stamina);
  const ghost = shape(before.stamina);
  const changed = JSON.stringify(stamina) !== JSON.stringify(before.stamina);
  const span = frozen ?? Math.max(at.full, changed ? ghost.full : 0) * 1.05;
  const x = scaleLinear([0, span], [8, WIDTH - 8]);
  const y = scaleLinear([0, 1], [BASE, 10]);
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);
  const hold = { began: () => freeze(span), ended: () => freeze(null) };
  const bar = ({ empty, wait, full }: typeof at) => `M${x(0)},${y(1)} L${x(empty)},${y(0)} H${x(wait)} L${x(full)},${y(1)}`;
  const level = (value: number) => Math.min(1, value / stamina.max);

  return (
    <FigureFrame
      number={number}
      id="stamina"
      title="Stamina"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className={`w-full shrink-0 select-none ${stamina.enabled ? '' : 'opacity-60'}`}
          role="group"
          aria-label="Stamina over a sprint to empty and back"
        >
          <path d={`M8,4 V${BASE} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          {changed && <path d={bar(ghost)} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.4" />}
          <path d={bar(at)} className="fill-none stroke-stamina" strokeWidth="2.2" strokeLinejoin="round" />
          <Level y={y(level(stamina.recoverTo))} words={`again ${shortNumber(stamina.recoverTo)}`} dash="5 3" />
          <Level y={y(level(stamina.startAt))} words={`start ${shortNumber(stamina.startAt)}`} dash="1.5 3" left />
          <text x={(x(0) + x(at.empty)) / 2 + 8} y={y(0.72)} className="digits fill-ink-soft text-[10px]">
            {seconds(at.empty)}
          </text>
          <text x={(x(at.wait) + x(at.full)) / 2 - 12} y={y(0.72)} textAnchor="end" className="digits fill-ink-soft text-[10px]">
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
            label="Wait before regain"
            value={seconds(stamina.regainDelay)}
            number={stamina.regainDelay}
            drag={(px) => set('stamina.regainDelay', Math.max(0, x.invert(px) - at.empty))}
            nudge={(across, along) => set('stamina.regainDelay', stamina.regainDelay + (across + along) * 0.05)}
            {...hold}
          />
          <Handle
            x={x(at.full)}
            y={y(1)}
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
            drag={(_px, py) => set('stamina.recoverTo', Math.round(Math.min(1, Math.max(0, y.invert(py))) * stamina.max))}
            nudge={(across, along) => set('stamina.recoverTo', stamina.recoverTo + across + along)}
          />
          <Handle
            x={8}
            y={y(level(stamina.startAt))}
            label="Stamina that a start needs"
            value={shortNumber(stamina.startAt)}
            number={stamina.startAt}
            drag={(_px, py) => set('stamina.startAt', Math.round(Math.min(1, Math.max(0, y.invert(py))) * stamina.max))}
            nudge={(across, along) => set('stamina.startAt', stamina.startAt + across + along)}
          />
        </svg>
      }
    >
      <FlagField path="stamina.enabled" />
      <p className="digits border-t border-rule/60 py-[3px] text-[11px] leading-4 text-ink-soft" data-testid="cycle">
        lasts {seconds(cycle.lasts)} · {cycle.way === Infinity ? 'no end' : `${shortNumber(cycle.way, 0)} ${unit}`} a bar · sprints{' '}
        {Math.round(cycle.share * 100)} % of a long run, mean {shortNumber(cycle.meanSpeed, 0)} {unit}/s
      </p>
      <NumberField model={useParameter('stamina.drain')} />
      <NumberField model={useParameter('stamina.regain')} />
      <NumberField model={useParameter('stamina.regainDelay')} />
      <NumberField model={useParameter('stamina.startAt')} />
      <NumberField model={useParameter('stamina.recoverTo')} />
      <NumberField model={useParameter('stamina.max')} />
      <ChoiceField path="stamina.regainWhile" />
      <NumberField model={useParameter('stamina.regainMovingFactor')} />
      <ChoiceField path="stamina.afterEmpty" />
      <FlagField path="stamina.emptyEndsSprint" />
      <NumberField model={useParameter('stamina.spentFactor')} />
      <ChoiceField path="stamina.drainWhile" />
      <NumberField model={useParameter('stamina.interval')} />
    </FigureFrame>
  );
}

function Level({ y, words, dash, left = false }: { y: number; words: string; dash: string; left?: boolean }) {
  return (
    <>
      <line x1="8" x2={WIDTH - 4} y1={y} y2={y} className="stroke-now" strokeDasharray={dash} strokeWidth="1" />
      <text x={left ? 20 : WIDTH - 20} y={y - 3} textAnchor={left ? 'start' : 'end'} className="digits fill-now text-[10px]">
        {words}
      </text>
    </>
  );
}
