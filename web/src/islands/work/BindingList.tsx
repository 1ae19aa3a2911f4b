import { useStore } from '@nanostores/react';
import { type Control, controls } from '@zygopod/core';
import { useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { $bindings, bindingConflict, controlWords, defaultBindings, keyName, keysOf, setBindings } from '../drive/bindings.ts';
import type { Command } from './commands.ts';

/** Which key works which control. A key that is taken is not given away silently: the conflict is said. */
export function BindingList({ commands, close }: { commands: Command[]; close(): void }) {
  const bindings = useStore($bindings);
  const [waiting, wait] = useState<Control | null>(null);
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

  return (
    <Overlay title="Driving keys" close={close}>
      <table className="w-full">
        <tbody>
          {controls
            .filter((control) => control !== 'pointer')
            .map((control) => (
              <tr key={control} className="border-t border-rule/60">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  {controlWords[control]}
                </th>
                <td className="py-1">
                  <span className="flex flex-wrap gap-1.5">
                    {keysOf(bindings, control).map((code) => (
                      <button
                        key={code}
                        type="button"
                        className="keycap hover:line-through"
                        title="Take this key away"
                        onClick={() => free(code)}
                      >
                        {keyName(code)}
                      </button>
                    ))}
                    {keysOf(bindings, control).length === 0 && <span className="text-now">▲ no key</span>}
                  </span>
                </td>
                <td className="py-1 text-right">
                  <button
                    type="button"
                    className="deed text-xs"
                    onClick={() => wait(control)}
                    onBlur={() => wait(null)}
                    onKeyDown={(event) => {
                      if (waiting !== control) return;
                      event.preventDefault();
                      event.stopPropagation();
                      if (event.key === 'Escape') wait(null);
                      else bind(event.code, control);
                    }}
                  >
                    {waiting === control ? 'Press a key …' : 'Add a key'}
                  </button>
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}. Take it away there first.
        </p>
      )}
      <p className="mt-3 flex justify-between">
        <button
          type="button"
          className="deed"
          onClick={() => {
            setBindings(defaultBindings);
            setWhy(null);
          }}
        >
          Back to the usual keys
        </button>
        <span className="text-ink-soft">Kept in this browser.</span>
      </p>
    </Overlay>
  );
}
