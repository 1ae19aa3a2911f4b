import type { ReactNode } from 'react';
import type { SchemeId } from './ways.ts';

const prints = 'fill-none stroke-ink-soft';

/** How a body moves under each scheme: its prints, with what leads it in magenta. */
const pictures: Readonly<Record<SchemeId, ReactNode>> = {
  steer: (
    <>
      <path d="M10 44C34 44 38 16 62 16s22 16 34 16" className={prints} strokeWidth="5" strokeDasharray="1.5 6" />
      <path d="M104 32h12m-5-4 5 4-5 4" className="fill-none stroke-now" strokeWidth="1.6" />
    </>
  ),
  click: (
    <>
      <path d="M46 18h14v32H46z" className="fill-solid stroke-ink" strokeWidth="1.2" />
      <path d="M12 46 40 12l26 0 38 22" className="fill-none stroke-route" strokeWidth="1.4" strokeDasharray="4 3" />
      <circle cx="110" cy="37" r="6" className="fill-none stroke-now" strokeWidth="1.6" />
      <circle cx="110" cy="37" r="1.6" className="fill-now" />
    </>
  ),
  step: (
    <>
      <path d="M14 4v52M38 4v52M62 4v52M86 4v52M110 4v52M4 18h118M4 42h118" className="fill-none stroke-rule" />
      <path d="M26 30h48v24" className="fill-none stroke-now" strokeWidth="1.6" />
      <path d="M20 24h12v12H20zM44 24h12v12H44zM68 24h12v12H68z" className="fill-none stroke-ink-soft" strokeWidth="1.4" />
    </>
  ),
  latch: (
    <>
      <path d="M12 14h44v32h50" className={prints} strokeWidth="5" strokeDasharray="1.5 6" />
      <path d="M56 8v-4m0 4-4-4m4 4 4-4" className="fill-none stroke-now" strokeWidth="1.6" />
      <path d="M108 46h10m-5-4 5 4-5 4" className="fill-none stroke-now" strokeWidth="1.6" />
    </>
  ),
  turn: (
    <>
      <path d="M12 50A40 40 0 0 1 92 50" className={prints} strokeWidth="5" strokeDasharray="1.5 6" />
      <path d="M92 50V30a34 34 0 0 0-16-14" className="fill-none stroke-now" strokeWidth="1.6" />
      <path d="m80 20-5-5 7-1" className="fill-none stroke-now" strokeWidth="1.6" />
    </>
  ),
};

export function SchemePicture({ id }: { id: SchemeId }) {
  return (
    <svg viewBox="0 0 126 60" aria-hidden="true" className="w-full border border-rule bg-sheet">
      {pictures[id]}
    </svg>
  );
}
