/** Things to be shown or hidden, one below the other. */
export function CheckList({
  legend,
  options,
  isOn,
  change,
}: {
  legend: string;
  options: readonly (readonly [name: string, label: string])[];
  isOn(name: string): boolean;
  change(name: string, on: boolean): void;
}) {
  return (
    <fieldset className="grid">
      <legend className="sr-only">{legend}</legend>
      {options.map(([name, label]) => (
        <label key={name} className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="size-3.5"
            checked={isOn(name)}
            onChange={(event) => {
              change(name, event.target.checked);
              event.target.blur();
            }}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}
