import { Overlay } from './Overlay.tsx';

/** Says why something could not be done; nothing where there is no why. */
export function Trouble({ why, close }: { why: string | null; close(): void }) {
  if (why === null) return null;
  return (
    <Overlay title="The action failed" close={close}>
      <p role="alert" className="text-now">
        ▲ {why}
      </p>
    </Overlay>
  );
}
