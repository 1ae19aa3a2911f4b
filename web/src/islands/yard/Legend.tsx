import { type Layer, type Layers, layerNames } from './layers.ts';

/** The layers of a yard, each to be shown or hidden. */
export function Legend({
  layers,
  names = layerNames,
  change,
}: {
  layers: Layers;
  names?: Partial<Record<Layer, string>>;
  change(layers: Layers): void;
}) {
  return (
    <fieldset className="absolute top-2 left-2 flex max-w-[calc(100%-16px)] flex-wrap gap-x-3 bg-sheet/85 px-2 py-1 text-[11px] text-ink-soft">
      <legend className="sr-only">Layers of the yard</legend>
      {Object.entries(names).map(([name, label]) => (
        <label key={name} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="size-3 accent-(--ink-soft)"
            checked={layers[name as Layer]}
            onChange={(event) => {
              change({ ...layers, [name]: event.target.checked });
              event.target.blur();
            }}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}
