/** No game has been linked yet: how to link one. */
export function NoGame() {
  return (
    <section aria-label="No game" data-testid="no-game" className="max-w-[68ch] p-6">
      <h2 className="text-base font-semibold">No game is linked.</h2>
      <p className="mt-2">
        A running game that is linked shows its motion here over the model’s, and takes numbers while they are dragged. To see one, start
        the game that comes with Zygopod, and drive it in its own window:
      </p>
      <pre className="digits mt-2 border border-rule bg-paper px-3 py-2 text-xs">./zygopod game</pre>
      <p className="mt-3">
        To link your own, copy one file for its language into it, name its numbers, and report a row each tick. <code>docs/link.md</code>{' '}
        has ten lines for each language.
      </p>
      <p className="mt-3 text-ink-soft">This page shows a game as soon as it is linked.</p>
    </section>
  );
}
