import { useStore } from '@nanostores/react';
import type { ReadableAtom } from 'nanostores';
import { CheckList } from '../controls/CheckList.tsx';
import { Menu } from '../controls/Menu.tsx';
import { type Layer, type Layers, layerNames } from './layers.ts';
import { type ViewMode, viewModes } from './view.ts';

const words: Record<ViewMode, string> = { whole: 'Whole', follow: 'Follow', free: 'Free' };
const help: Record<ViewMode, string> = {
  whole: 'All of the ground',
  follow: 'The body stays in sight, large enough to judge',
  free: 'As moved by hand: wheel, middle drag, space and drag',
};

const look = 'flex min-h-6 items-center border border-rule bg-sheet/90 px-2 text-[12px] hover:border-ink';

/** Two small menus in the yard's corner: its layers and its view. */
export function YardMenus({
  layers,
  names = layerNames,
  change,
  $mode,
  choose,
}: {
  layers: Layers;
  names?: Partial<Record<Layer, string>>;
  change(layers: Layers): void;
  $mode: ReadableAtom<ViewMode>;
  choose(mode: ViewMode): void;
}) {
  const options = Object.entries(names) as [Layer, string][];
  const on = options.filter(([name]) => layers[name]).length;
  return (
    <div className="absolute top-2 left-2 flex gap-1.5">
      <Menu
        side="under"
        className={look}
        title="What is shown on the yard"
        label={
          <>
            Layers <span className="digits ml-1.5 text-ink-soft">{on}</span>
          </>
        }
      >
        <CheckList
          legend="Layers of the yard"
          options={options}
          isOn={(name) => layers[name as Layer]}
          change={(name, isOn) => change({ ...layers, [name]: isOn })}
        />
      </Menu>
      <ViewMenu $mode={$mode} choose={choose} />
    </div>
  );
}

/** How a yard is seen. */
export function ViewMenu({ $mode, choose }: { $mode: ReadableAtom<ViewMode>; choose(mode: ViewMode): void }) {
  const mode = useStore($mode);
  return (
    <Menu side="under" className={look} title="View of the yard; double-click to reset" label={words[mode]}>
      <fieldset className="grid">
        <legend className="sr-only">View of the yard</legend>
        {viewModes.map((name) => (
          <label key={name} className="flex min-h-6 items-center gap-2" title={help[name]}>
            <input
              type="radio"
              name="view"
              className="size-3.5"
              checked={mode === name}
              onChange={(event) => {
                choose(name);
                event.target.blur();
              }}
            />
            {words[name]}
          </label>
        ))}
      </fieldset>
    </Menu>
  );
}
