import type { Moved } from './movedMetrics.ts';

/** A metric before and after, with how it stands to its target. */
export function MovedRow({ moved: { words, change, isIn, wanted } }: { moved: Moved }) {
  return (
    <li className="border-b border-rule/60 py-0.5">
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <span className="min-w-0">{words}</span>
        <span className="digits ml-auto shrink-0 text-xs">
          {change}
          {isIn !== null && (
            <span className={`ml-1.5 ${isIn ? 'text-route' : 'text-now'}`} title={`Target: ${wanted}`}>
              <span aria-hidden="true">{isIn ? '●' : '▲'}</span>
              <span className="sr-only">{isIn ? 'within' : 'outside'} its target</span>
            </span>
          )}
        </span>
      </p>
      {isIn === false && <p className="text-right text-xs text-now">target: {wanted}</p>}
    </li>
  );
}
