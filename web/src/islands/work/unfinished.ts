/**
 * Whether something was typed that nothing has taken yet, once the field that has the focus is left: an entry that can't be taken, or text in a
 * field marked with `data-work`, whose value is what it began with.
 */
export function isUnfinished(): boolean {
  const { activeElement } = document;
  // A field takes its entry as it is left.
  const isField = activeElement instanceof HTMLInputElement || activeElement instanceof HTMLTextAreaElement;
  if (isField && activeElement.dataset['work'] === undefined) activeElement.blur();
  if (document.querySelector('input[aria-invalid="true"], textarea[aria-invalid="true"]')) return true;
  const fields = document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('input[data-work], textarea[data-work]');
  return [...fields].some((field) => field.value.trim() !== (field.dataset['work'] ?? '').trim());
}
