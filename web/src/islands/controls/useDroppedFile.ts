import { useEffect } from 'react';

/** Takes a file that is dropped anywhere on the page. `take` has to stay the same function. */
export function useDroppedFile(take: (file: File) => void): void {
  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (file) take(file);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [take]);
}
