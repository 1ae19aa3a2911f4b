/** The chart as it is drawn, as an SVG of its own: colours in place of the theme's names, the depths as an image in it; null where there is no chart. */
export function svgOf(): string | null {
  const drawn = document.querySelector<SVGSVGElement>('[data-chart] svg');
  if (!drawn) return null;
  const style = getComputedStyle(document.documentElement);
  const copy = drawn.cloneNode(true) as SVGSVGElement;
  const [width, height] = [drawn.clientWidth, drawn.clientHeight];
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', `${width}`);
  copy.setAttribute('height', `${height}`);
  copy.setAttribute('font-family', 'sans-serif');
  copy.removeAttribute('class');
  const depths = document.querySelector<HTMLCanvasElement>('[data-chart] canvas');
  const parts = [`<rect width="${width}" height="${height}" fill="${style.getPropertyValue('--sheet').trim()}"/>`];
  if (depths) {
    const { left, top } = drawn.getBoundingClientRect();
    const box = depths.getBoundingClientRect();
    parts.push(
      `<image x="${box.left - left}" y="${box.top - top}" width="${box.width}" height="${box.height}" preserveAspectRatio="none" style="image-rendering:pixelated" href="${depths.toDataURL('image/png')}"/>`,
    );
  }
  const text = new XMLSerializer().serializeToString(copy);
  const at = text.indexOf('>') + 1;
  return `${text.slice(0, at)}${parts.join('')}${text.slice(at)}`.replace(/var\((--[\w-]+)\)/g, (_, name: string) =>
    style.getPropertyValue(name).trim(),
  );
}
