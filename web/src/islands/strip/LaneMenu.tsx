import { useStore } from '@nanostores/react';
import { CheckList } from '../controls/CheckList.tsx';
import { Menu } from '../controls/Menu.tsx';
import { useTuning } from '../tuning/context.ts';
import { $chosenLanes, showLane, shownLanes, usedLanes } from './laneList.ts';

/** Chooses the lanes of the strip. */
export function LaneMenu() {
  const { parameters } = useStore(useTuning().editing.$tuning);
  const shown = shownLanes(parameters, useStore($chosenLanes)).map(({ name }) => name);
  return (
    <Menu label="Lanes" title="Lanes of the strip" side="over" className="action min-h-6">
      <CheckList
        legend="Lanes of the strip"
        options={usedLanes(parameters).map(({ name }) => [name, name] as const)}
        isOn={(name) => shown.includes(name)}
        change={showLane}
      />
    </Menu>
  );
}
