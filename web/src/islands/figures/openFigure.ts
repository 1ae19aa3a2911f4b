import { createContext, useContext } from 'react';

/** Which figure is open with all its rows, and which are of no use to the scheme at hand. */
interface FiguresState {
  open: string | null;
  setOpen(id: string | null): void;
  unused: ReadonlySet<string>;
}

export const FiguresContext = createContext<FiguresState>({ open: null, setOpen: () => undefined, unused: new Set() });

export const useFigures = (): FiguresState => useContext(FiguresContext);
