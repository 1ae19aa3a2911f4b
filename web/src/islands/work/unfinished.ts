import { useEffect, useRef } from 'react';

/** Conditions under which leaving the page would lose work that no field shows. */
const guards = new Set<() => boolean>();

/** Has the page ask before it is left for as long as `isAtRisk` returns true and the component is mounted. */
export function useGuard(isAtRisk: () => boolean): void {
  const latest = useRef(isAtRisk);
  latest.current = isAtRisk;
  useEffect(() => {
    const guard = () => latest.current();
    guards.add(guard);
    return () => {
      guards.delete(guard);
    };
  }, []);
}

/**
 * True if leaving the page would lose work: an entry that can't be applied once its field is left, text in a field marked with `data-work` (its
 * value is the text that is stored), or a guard of a component.
 */
export function isUnfinished(): boolean {
  const { activeElement } = document;
  // A field takes its entry as it is left.
  const isField = activeElement instanceof HTMLInputElement || activeElement instanceof HTMLTextAreaElement;
  if (isField && activeElement.dataset['work'] === undefined) activeElement.blur();
  if (document.querySelector('input[aria-invalid="true"], textarea[aria-invalid="true"]')) return true;
  if ([...guards].some((isAtRisk) => isAtRisk())) return true;
  const fields = document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('input[data-work], textarea[data-work]');
  return [...fields].some((field) => field.value.trim() !== (field.dataset['work'] ?? '').trim());
}
