/** The path of a recording from a ring to a dot, with that of the model over it if there is one. */
export function RecordedPath({
  places,
  model,
}: {
  places: readonly (readonly [number, number])[];
  model?: readonly (readonly [number, number])[];
}) {
  const xs = places.map(([x]) => x);
  const ys = places.map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, tall] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const size = Math.max(wide, tall, 1e-9);
  const room = size * 0.06;
  const [first, last] = [places[0], places.at(-1)] as [readonly [number, number], readonly [number, number]];
  const points = (all: readonly (readonly [number, number])[]) => all.map(([x, y]) => `${x},${y}`).join(' ');
  return (
    <svg
      viewBox={`${left - room} ${top - room} ${wide + 2 * room} ${tall + 2 * room}`}
      className={`${model ? 'h-[230px]' : 'aspect-square'} w-full border border-rule bg-paper`}
      role="img"
      aria-label={model ? 'The path of the recording, and that of the model over it' : 'The path of the recording'}
      data-testid="recording-path"
    >
      <polyline
        points={points(places)}
        className="fill-none stroke-route"
        vectorEffect="non-scaling-stroke"
        strokeWidth={model ? 4 : 1.5}
      />
      {model && <polyline points={points(model)} className="fill-none stroke-ink" vectorEffect="non-scaling-stroke" strokeWidth={1.25} />}
      <circle cx={first[0]} cy={first[1]} r={size / 50} className="fill-none stroke-ink" strokeWidth={size / 200} />
      <circle cx={last[0]} cy={last[1]} r={size / 60} className="fill-now" />
    </svg>
  );
}
