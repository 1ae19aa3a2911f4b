import { type Pace, paces } from './loop.ts';

const words: Readonly<Record<Pace, string>> = { 1: '1×', 0.5: '½', 0.25: '¼' };

/** How fast what is recorded plays. */
export function PaceChoice({ pace, choose }: { pace: Pace; choose(pace: Pace): void }) {
  return (
    <fieldset className="flex">
      <legend className="sr-only">Pace of the tape</legend>
      {paces.map((one) => (
        <label
          key={one}
          className={`flex min-h-6 min-w-6 items-center justify-center px-1 has-focus-visible:outline-2 ${one === pace ? 'font-semibold text-ink underline underline-offset-4' : 'text-ink-soft'}`}
        >
          <input type="radio" name="pace" className="sr-only" checked={one === pace} onChange={() => choose(one)} />
          {words[one]}
        </label>
      ))}
    </fieldset>
  );
}
