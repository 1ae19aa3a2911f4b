/** Plays what is recorded, or holds it; says which of the two it does. */
export function PlayButton({ playing, words, toggle }: { playing: boolean; words: readonly [string, string]; toggle(): void }) {
  return (
    <button
      type="button"
      className="flex min-h-6 min-w-6 items-center gap-1.5 font-semibold"
      aria-pressed={playing}
      title={playing ? 'Hold (P)' : 'Play (P)'}
      onClick={toggle}
    >
      <span aria-hidden="true" className="text-now">
        {playing ? '▶' : '▮▮'}
      </span>
      {words[playing ? 0 : 1]}
    </button>
  );
}
