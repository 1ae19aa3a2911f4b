import { useStore } from '@nanostores/react';
import { type Finding, type MetricName, type Metrics, metricSpecs, significant, significantPair, unitOf } from '@zygopod/core';
import { useRef } from 'react';
import { usePainter } from '../chart/frames.ts';
import { write } from '../controls/inPlace.ts';
import { useGame } from './context.ts';

/** Metrics of a drive that are compared. */
const compared: readonly MetricName[] = [
  'riseTime',
  'riseDistance',
  'stopTime',
  'stopDistance',
  'peakSpeed',
  'meanSpeed',
  'timeSprinting',
  'timeSpent',
  'travelled',
];

/** Fraction by which two values are the same. */
const SAME = 0.02;

/** Where the game differs from the model on its hands: what was found, in words, and the metrics of both. */
export function Differs() {
  const game = useGame();
  const { findings, model, game: own } = useStore(game.$measured);
  const open = useStore(game.$game);
  const length = useRef<HTMLSpanElement>(null);
  usePainter(() => write(length.current, `${game.shown.length.toFixed(1)} s`));
  const shown = compared.filter((name) => model[name] !== undefined && own[name] !== undefined);
  return (
    <section aria-label="Where the game differs" className="flex min-h-0 flex-col border-l border-ink px-3.5 py-2">
      <h2 className="rubric">Where the game differs</h2>
      <p className="text-xs text-ink-soft">
        {open && !open.columns.includes('x') ? (
          'The game reports no place (columns x and y).'
        ) : (
          <>
            on the hands that it reports, <span ref={length} className="digits" />
          </>
        )}
      </p>
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
        {findings.length === 0 ? (
          <p className="mt-2" data-testid="findings" data-count="0">
            {shown.length > 0 ? (
              <>
                <span aria-hidden="true" className="mr-1 text-route">
                  ●
                </span>
                Moves as the model does.
              </>
            ) : (
              <span className="text-ink-soft">Drive the game: its motion is compared tick by tick.</span>
            )}
          </p>
        ) : (
          <ul className="mt-1" data-testid="findings" data-count={findings.length}>
            {findings.map((finding) => (
              <Found key={finding.kind + finding.words} finding={finding} />
            ))}
          </ul>
        )}
        {shown.length > 0 && <Both names={shown} model={model} game={own} />}
      </div>
    </section>
  );
}

/** A finding, with the places on the strip in which it shows. */
function Found({ finding: { kind, words, rows, mend } }: { finding: Finding }) {
  const game = useGame();
  const next = useRef(0);
  const show = () => {
    game.shown.hold(rows[next.current % rows.length] ?? null);
    next.current++;
  };
  return (
    <li className="border-b border-rule/60 py-1" data-finding={kind}>
      <p className="text-now">
        <span aria-hidden="true" className="mr-1">
          ▲
        </span>
        {words}
      </p>
      <p className="flex justify-between text-xs text-ink-soft">
        {rows.length > 0 && (
          <button type="button" className="action" title="Shows it on the strip and the yard; again: the next time" onClick={show}>
            {rows.length === 1 ? 'once, show' : `${rows.length} times, show`}
          </button>
        )}
        {mend && (
          <button
            type="button"
            className="action ml-auto"
            title={`Sets ${mend.path} in this tuning`}
            onClick={() => game.mend(mend.path, mend.value)}
          >
            Set it in the tuning
          </button>
        )}
      </p>
    </li>
  );
}

/** Metrics of the model and of the game. */
function Both({ names, model, game }: { names: readonly MetricName[]; model: Metrics; game: Metrics }) {
  const { unit } = useGame().ground;
  return (
    <table className="mt-2 w-full table-fixed">
      <thead>
        <tr className="text-xs text-ink-soft">
          <th className="text-left font-normal">Of the drive</th>
          <th className="w-[52px] text-right font-normal">model</th>
          <th className="w-[52px] text-right font-normal">game</th>
          <th className="w-[34px]" />
        </tr>
      </thead>
      <tbody>
        {names.map((name) => {
          const [mine, own] = [model[name] as number, game[name] as number];
          const isSame = Math.abs(mine - own) <= SAME * Math.max(Math.abs(mine), Math.abs(own), 1e-6);
          const { words, quantity } = metricSpecs[name];
          const [before, after] = isSame ? [significant(mine), significant(own)] : significantPair(mine, own);
          return (
            <tr key={name} className="border-t border-rule/60" data-metric={name} data-same={isSame}>
              <td className="py-0.5">{words}</td>
              <td className="digits text-right text-xs text-ink-soft">{before}</td>
              <td className={`digits text-right text-xs ${isSame ? '' : 'text-now'}`}>{after}</td>
              <td className="digits pl-1 text-[11px] text-ink-soft">{unitOf(quantity, unit)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
