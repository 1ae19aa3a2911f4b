import { VERSION } from '@zygopod/core';
import { Overlay } from '../controls/Overlay.tsx';

/** Describes the application and its version. */
export function About({ close }: { close(): void }) {
  return (
    <Overlay title="About Zygopod" close={close}>
      <p>Tune how a game character moves on the ground, see its real motion, and use the numbers in your game.</p>
      <p className="digits mt-3 text-xs text-ink-soft">version {VERSION}</p>
    </Overlay>
  );
}
