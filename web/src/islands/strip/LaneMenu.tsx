import { useStore } from '@nanostores/react';
import { CheckList } from '../controls/CheckList.tsx';
import { Menu } from '../controls/Menu.tsx';
import { $lanes, lanes, showLane } from './laneList.ts';

const options = lanes.map(({ name }) => [name, name] as const);

/** Chooses the lanes of the strip. */
export function LaneMenu() {
  const shown = useStore($lanes);
  return (
    <div className="absolute bottom-0 left-3.5">
      <Menu
        label="Lanes"
        side="over"
        className="min-h-6 text-[11px] text-ink-soft underline decoration-dotted underline-offset-2 hover:text-ink"
      >
        <CheckList
          legend="Lanes of the strip"
          options={options}
          isOn={(name) => shown.includes(name as (typeof shown)[number])}
          change={(name, on) => showLane(name as (typeof shown)[number], on)}
        />
      </Menu>
    </div>
  );
}
