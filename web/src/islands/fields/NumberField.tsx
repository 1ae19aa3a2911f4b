import { shortNumber } from '@zygopod/core';
import { type KeyboardEvent, type PointerEvent, useId, useRef, useState } from 'react';
import { useTuning } from '../tuning/context.ts';
import type { FieldModel } from './model.ts';

/** One step of a nudge: about a hundredth of the number. */
function stepOf(number: number): number {
  return 10 ** (Math.floor(Math.log10(Math.max(Math.abs(number), 1e-3))) - 2 + (Math.abs(number) < 10 ? 1 : 0));
}

/** Screen pixels of a scrub for one step. */
const PIXELS = 2;

/**
 * A row with a number. Type a number or a rule; arrows nudge (Shift by ten, Alt by a tenth); drag the label to scrub;
 * Escape gives back what was there. A wrong entry says why and changes nothing.
 */
export function NumberField({ model }: { model: FieldModel }) {
  const { editing, saving } = useTuning();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  /** Typed text that isn't entered yet; Escape clears it before the field is left. */
  const given = useRef<string | null>(null);
  /** The number that was there when typing began. */
  const begun = useRef(0);
  const [why, setWhy] = useState<string | null>(null);
  const scrub = useRef<{ x: number; number: number; step: number } | null>(null);

  /** Stores typed text in the browser, so that it survives even a crash of the page. */
  const type = (text: string) => {
    if (given.current === null) begun.current = model.number;
    given.current = text;
    setTyped(text);
    setWhy(null);
    saving.hold(() => editing.would(() => model.enter(text)));
  };
  /** Nothing is typed any more. */
  const forget = () => {
    given.current = null;
    setTyped(null);
    saving.hold(null);
  };
  const commit = (text: string): boolean => {
    if (text.trim() === shortNumber(model.number)) {
      setWhy(null);
      return true;
    }
    // The number was changed elsewhere while this text was being typed: don't overwrite it unseen.
    const isNews = given.current !== null && begun.current !== model.number;
    begun.current = model.number;
    const fault = isNews ? `It became ${shortNumber(model.number)} meanwhile. Enter sets ${text}, Escape leaves it.` : model.enter(text);
    setWhy(fault);
    return fault === null;
  };
  const nudge = (by: number) => {
    forget();
    setWhy(model.put(Number((model.number + by).toPrecision(12))));
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    if (event.key === 'Enter') {
      if (commit(event.currentTarget.value)) {
        forget();
        event.currentTarget.select();
      }
    } else if (event.key === 'Escape') {
      forget();
      setWhy(null);
      event.currentTarget.blur();
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const size = stepOf(model.number) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
      nudge(event.key === 'ArrowUp' ? size : -size);
    }
  };
  const leave = () => {
    if (given.current !== null && !commit(given.current)) return;
    forget();
  };

  /** The focused number is the one that a trial multiplies. */
  const regard = () => {
    if (model.path && editing.$trial.get() === null) editing.$subject.set(model.path);
  };

  const grab = (event: PointerEvent<HTMLLabelElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    scrub.current = { x: event.clientX, number: model.number, step: stepOf(model.number) };
    editing.beginGesture(model.label.toLowerCase());
  };
  const drag = (event: PointerEvent) => {
    const held = scrub.current;
    if (!held) return;
    const steps = Math.round((event.clientX - held.x) / PIXELS);
    const factor = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    if (steps !== 0) setWhy(model.put(held.number + steps * held.step * factor));
  };
  const drop = () => {
    scrub.current = null;
    editing.endGesture();
  };

  return (
    <div
      role="group"
      aria-label={model.label}
      className="border-t border-rule/60 pt-[3px] pb-[2px]"
      onPointerEnter={regard}
      onFocus={regard}
    >
      <div className="flex items-baseline gap-1.5">
        <label
          htmlFor={id}
          title={`${model.help} Drag to change.`}
          className="min-w-0 flex-1 cursor-ew-resize touch-none truncate select-none"
          onPointerDown={grab}
          onPointerMove={drag}
          onPointerUp={drop}
          onPointerCancel={drop}
        >
          {model.was !== null && (
            <span className="mr-1 font-bold text-now" aria-hidden="true">
              •
            </span>
          )}
          {model.label}
          {model.was !== null && <span className="digits ml-1.5 text-[11px] text-ink-soft">was {model.was}</span>}
        </label>
        {model.link && (
          <button
            type="button"
            title="Follows another number. Click to break the link."
            className="number-link digits text-xs whitespace-nowrap text-other hover:line-through"
            onClick={model.link.break}
          >
            {model.link.words}
          </button>
        )}
        <input
          id={id}
          className="digits w-[7ch] border-b border-ink bg-transparent text-right font-medium focus:w-[15ch] focus:bg-sheet"
          value={typed ?? shortNumber(model.number)}
          spellCheck={false}
          autoComplete="off"
          aria-invalid={why !== null}
          aria-describedby={why ? `${id}-why` : undefined}
          onFocus={(event) => event.currentTarget.select()}
          onChange={(event) => type(event.target.value)}
          onKeyDown={key}
          onBlur={leave}
        />
        <span className="digits w-[5.5ch] shrink-0 text-[11px] whitespace-nowrap text-ink-soft">{model.unit}</span>
      </div>
      {why !== null && (
        <p id={`${id}-why`} role="alert" className="text-right text-xs text-now">
          ▲ {why}
        </p>
      )}
    </div>
  );
}
