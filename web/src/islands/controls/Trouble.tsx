import { Overlay } from './Overlay.tsx';

/** Says why something could not be done; nothing where there is no why. */
export function Trouble({ why, close }: { why: string | null; close(): void }) {
  if (why === null) return null;
  return (
    <Overlay title="That could not be done" close={close}>
      <p role="alert" className="text-now">
        ▲ {why}
      </p>
    </Overlay>
  );
}
