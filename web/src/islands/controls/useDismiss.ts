import { type RefObject, useEffect } from 'react';

/** Closes a popup on Escape or a press outside it, before the yard receives the press. */
export function useDismiss(inside: RefObject<HTMLElement | null>, isOpen: boolean, close: () => void): void {
  useEffect(() => {
    if (!isOpen) return;
    const leave = (event: Event) => {
      if (event instanceof KeyboardEvent ? event.key === 'Escape' : !inside.current?.contains(event.target as Node)) close();
    };
    window.addEventListener('pointerdown', leave, true);
    window.addEventListener('keydown', leave);
    return () => {
      window.removeEventListener('pointerdown', leave, true);
      window.removeEventListener('keydown', leave);
    };
  }, [inside, isOpen, close]);
}
