import { type ReactNode, useEffect, useRef } from 'react';

/** A sheet laid over the page: a dialog that Escape and a click beside it close. */
export function Overlay({
  title,
  close,
  wide = false,
  size = wide ? 'w-[640px]' : 'w-[440px]',
  children,
}: {
  title: string;
  close(): void;
  wide?: boolean;
  size?: string;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label={title}
      onClose={close}
      onClick={(event) => event.target === dialog.current && dialog.current?.close()}
      onKeyDown={(event) => event.stopPropagation()}
      className={`m-auto mt-14 max-h-[calc(100vh-80px)] ${size} overflow-y-auto border border-ink bg-sheet p-0 text-ink backdrop:bg-ink/25`}
    >
      <div className="p-4">
        <h2 className="mb-3 text-sm font-semibold">{title}</h2>
        {children}
      </div>
    </dialog>
  );
}
