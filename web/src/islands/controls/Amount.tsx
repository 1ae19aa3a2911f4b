/** A positive number with its unit behind it. */
export function Amount({ label, value, unit, set }: { label: string; value: number; unit: string; set(value: number): void }) {
  return (
    <>
      <input
        aria-label={label}
        type="number"
        min="0.001"
        step="any"
        className="digits w-14 border-b border-rule bg-transparent text-right"
        value={value}
        onChange={(event) => Number(event.target.value) > 0 && set(Number(event.target.value))}
      />
      <span className="text-xs text-ink-soft">{unit}</span>
    </>
  );
}
