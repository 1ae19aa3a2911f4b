import { useStore } from '@nanostores/react';
import { type Control, controls } from '@zygopod/core';
import { useEffect, useRef, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { $bindings, bindingConflict, controlWords, defaultBindings, keyName, keysOf, setBindings } from '../drive/bindings.ts';
import { $padMaps, buttonsOf, buttonWord, mapOf, pushedStick, setPadMap, stickWord, withButton } from '../drive/padBindings.ts';
import { type Pressed, usePressed } from '../drive/usePressed.ts';
import type { Command } from '../work/commands.ts';

/** The input being waited for: a key or button for a control, or a push of the stick that will steer. */
type Waiting = { for: 'key' | 'button'; control: Control } | { for: 'stick' } | null;

const cap = (isDown: boolean) => `keycap min-h-6 hover:line-through ${isDown ? 'border-now bg-now text-sheet' : ''}`;

/** Lists the keys and buttons of each control, and which are down. A key in use isn't reassigned silently: the conflict is shown. */
export function BindingList({ commands, close }: { commands: Command[]; close(): void }) {
  const bindings = useStore($bindings);
  const maps = useStore($padMaps);
  const pressed = usePressed();
  const kind = pressed.pad?.kind ?? 'standard';
  const map = mapOf(maps, kind);
  const [waiting, wait] = useState<Waiting>(null);
  const [why, setWhy] = useState<string | null>(null);

  const bind = (code: string, control: Control) => {
    const conflict = bindingConflict(
      bindings,
      code,
      control,
      commands.map(({ key }) => key),
    );
    setWhy(conflict);
    if (!conflict) setBindings({ ...bindings, [code]: control });
    wait(null);
  };
  const free = (code: string) => {
    const { [code]: _freed, ...rest } = bindings;
    setBindings(rest);
    setWhy(null);
  };
  usePadPress(pressed, waiting, (button) => {
    if (waiting?.for !== 'button') return;
    const other = map.buttons[button];
    const isTaken = other !== undefined && other !== waiting.control;
    setWhy(isTaken ? `The button “${buttonWord(kind, button)}” works “${controlWords[other]}”` : null);
    if (!isTaken) setPadMap(kind, withButton(map, button, waiting.control));
    wait(null);
  });
  const pushed = waiting?.for === 'stick' && pressed.pad ? pushedStick(pressed.pad.axes) : null;
  useEffect(() => {
    if (!pushed) return;
    setPadMap(kind, { ...map, stick: pushed });
    wait(null);
  }, [pushed, kind, map]);

  return (
    <Overlay title="Driving keys" close={close} wide>
      <p className="mb-2 text-ink-soft" data-testid="pad-kind">
        {!pressed.pad
          ? 'No pad is heard: press one of its buttons. The buttons below are those of the standard mapping.'
          : kind === 'standard'
            ? 'A pad with the standard mapping is heard.'
            : `“${kind}” is connected without a standard mapping: press an input for each control.`}
      </p>
      <table className="w-full">
        <thead>
          <tr className="text-left text-xs text-ink-soft">
            <th className="font-normal">Control</th>
            <th className="font-normal">Keys</th>
            <th className="font-normal">Pad</th>
          </tr>
        </thead>
        <tbody>
          {controls
            .filter((control) => control !== 'pointer')
            .map((control) => (
              <tr key={control} className="border-t border-rule/60">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  {controlWords[control]}
                </th>
                <td className="py-1">
                  <span className="flex flex-wrap items-center gap-1.5">
                    {keysOf(bindings, control).map((code) => (
                      <button
                        key={code}
                        type="button"
                        className={cap(pressed.keys.has(code))}
                        data-down={pressed.keys.has(code) || undefined}
                        title="Remove this key"
                        onClick={() => free(code)}
                      >
                        {keyName(code)}
                      </button>
                    ))}
                    {keysOf(bindings, control).length === 0 && <span className="text-now">▲ no key</span>}
                    <button
                      type="button"
                      className="action min-h-6 text-xs"
                      aria-label={
                        waiting?.for === 'key' && waiting.control === control ? undefined : `Add a key for ${controlWords[control]}`
                      }
                      onClick={() => wait({ for: 'key', control })}
                      onBlur={() => wait(null)}
                      onKeyDown={(event) => {
                        if (waiting?.for !== 'key' || waiting.control !== control) return;
                        event.preventDefault();
                        event.stopPropagation();
                        if (event.key === 'Escape') wait(null);
                        else bind(event.code, control);
                      }}
                    >
                      {waiting?.for === 'key' && waiting.control === control ? 'Press a key …' : 'Add'}
                    </button>
                  </span>
                </td>
                <td className="py-1">
                  <span className="flex flex-wrap items-center gap-1.5">
                    {buttonsOf(map, control).map((button) => (
                      <button
                        key={button}
                        type="button"
                        className={cap(pressed.pad?.buttons.includes(button) ?? false)}
                        data-down={pressed.pad?.buttons.includes(button) || undefined}
                        title="Remove this button"
                        onClick={() => setPadMap(kind, withButton(map, button, null))}
                      >
                        {buttonWord(kind, button)}
                      </button>
                    ))}
                    <button
                      type="button"
                      className="action min-h-6 text-xs"
                      aria-label={
                        waiting?.for === 'button' && waiting.control === control ? undefined : `Add a button for ${controlWords[control]}`
                      }
                      onClick={() => wait({ for: 'button', control })}
                    >
                      {waiting?.for === 'button' && waiting.control === control ? 'Press a button …' : 'Add'}
                    </button>
                  </span>
                </td>
              </tr>
            ))}
          <tr className="border-t border-rule/60">
            <th scope="row" className="py-1 pr-3 text-left font-normal">
              Steer
            </th>
            <td className="py-1 text-ink-soft">–</td>
            <td className="py-1">
              <span className="flex items-center gap-1.5">
                <span className="keycap" data-testid="pad-stick">
                  {stickWord(kind, map.stick)}
                </span>
                {map.stick && pressed.pad && (
                  <span className="digits text-xs text-ink-soft">
                    {map.stick.map((axis) => (pressed.pad?.axes[axis] ?? 0).toFixed(2)).join(', ')}
                  </span>
                )}
                <button type="button" className="action min-h-6 text-xs" onClick={() => wait({ for: 'stick' })}>
                  {waiting?.for === 'stick' ? 'Push the stick …' : 'Choose another'}
                </button>
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}. Remove it there first.
        </p>
      )}
      <p className="mt-3 flex justify-between gap-4">
        <button
          type="button"
          className="action"
          onClick={() => {
            setBindings(defaultBindings);
            setPadMap(kind, null);
            setWhy(null);
          }}
        >
          Restore default keys
        </button>
        <span className="text-ink-soft">Saved in this browser.</span>
      </p>
    </Overlay>
  );
}

/** Reports a button pressed while one is waited for; buttons already down don't count. */
function usePadPress({ pad }: Pressed, waiting: Waiting, take: (button: number) => void): void {
  const before = useRef<readonly number[]>([]);
  const taker = useRef(take);
  useEffect(() => {
    taker.current = take;
  });
  useEffect(() => {
    const fresh = pad?.buttons.find((button) => !before.current.includes(button));
    before.current = pad?.buttons ?? [];
    if (fresh !== undefined && waiting?.for === 'button') taker.current(fresh);
  }, [pad, waiting]);
}
