import { type RefObject, useEffect } from 'react';

/** Closes what is open beside or over the page when Escape is pressed, or anything outside of it: before the yard hears of the press. */
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
