import { useEffect } from 'react';

/** Takes files that are dropped anywhere on the page. `take` has to stay the same function. */
export function useDroppedFiles(take: (files: readonly File[]) => void): void {
  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length > 0) take(files);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [take]);
}
