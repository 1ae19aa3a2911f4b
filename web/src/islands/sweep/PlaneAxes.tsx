import { ticksOf } from './axisTicks.ts';
import { MARGIN } from './layout.ts';
import type { Swept } from './measuring.ts';
import { axisTitle } from './words.ts';

/** The axes of a plane, with round numbers and titles. */
export function PlaneAxes({
  swept,
  wide,
  tall,
  sx,
  sy,
  unit,
}: {
  swept: Swept;
  wide: number;
  tall: number;
  sx: number;
  sy: number;
  unit: string;
}) {
  const [across, down] = swept.sweep.definition.axes;
  if (!across || !down) return null;
  return (
    <g fontSize="11" fill="var(--ink)">
      {ticksOf(across, Math.max(2, Math.floor(wide / 70))).map(({ at, text }) => (
        <g key={text} transform={`translate(${MARGIN.left + at * sx} ${MARGIN.top + tall})`}>
          <line y2="5" stroke="var(--ink)" />
          <text y="17" textAnchor="middle" className="digits">
            {text}
          </text>
        </g>
      ))}
      {ticksOf(down, Math.max(2, Math.floor(tall / 34))).map(({ at, text }) => (
        <g key={text} transform={`translate(${MARGIN.left} ${MARGIN.top + at * sy})`}>
          <line x2="-5" stroke="var(--ink)" />
          <text x="-8" textAnchor="end" dominantBaseline="central" className="digits">
            {text}
          </text>
        </g>
      ))}
      <text x={MARGIN.left + wide / 2} y={MARGIN.top + tall + 36} textAnchor="middle" fontSize="12.5">
        {axisTitle(across, unit)}
      </text>
      <text transform={`translate(14 ${MARGIN.top + tall / 2}) rotate(-90)`} textAnchor="middle" fontSize="12.5">
        {axisTitle(down, unit)}
      </text>
    </g>
  );
}
