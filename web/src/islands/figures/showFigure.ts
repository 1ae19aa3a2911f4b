/** Brings a figure into sight and the keys to it. */
export function showFigure(id: string): void {
  const figure = document.getElementById(`figure-${id}`);
  figure?.scrollIntoView({ inline: 'start', block: 'nearest' });
  document.getElementById(`figure-${id}-title`)?.focus({ preventScroll: true });
}
