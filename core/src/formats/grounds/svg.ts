import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Reading } from '../../document/fault.ts';
import { type Gate, type Ground, groundFormat, OPEN, readGround, SOLID, type Surface, type Wall } from '../../ground/ground.ts';
import { inXml } from '../escaping.ts';
import { attributesInOne, countUpTo, most, numbersIn, tooMany } from './budget.ts';
import { BrokenPath, flattenPath, TooManyPoints } from './flatten.ts';
import { type Exported, type Imported, refused, wholeCells } from './imported.ts';

/** An element as the parser gives it with its order kept: its name with its children, and its attributes under `:@`. */
type Node = Record<string, unknown>;
type Attributes = Readonly<Record<string, string>>;

const nameOf = (node: Node) => Object.keys(node).find((key) => key !== ':@') ?? '';
const attributesOf = (node: Node) => (node[':@'] ?? {}) as Attributes;
const childrenOf = (node: Node) => (node[nameOf(node)] ?? []) as Node[];

/** Elements that draw nothing by themselves. */
const unseen = new Set(['defs', 'clipPath', 'mask', 'symbol', 'marker', 'pattern', 'metadata', 'title', 'desc', 'style', 'script', 'text']);

/** Nesting at most: a drawing beyond it is no ground. */
const DEEPEST = 64;

interface Drawing {
  walls: Wall[];
  cells: { mark: string; x: number; y: number; width: number; height: number }[];
  surfaces: Record<string, Surface>;
  start?: { x: number; y: number; facing?: number };
  goal?: { x: number; y: number; radius: number };
  frame?: { x: number; y: number; width: number; height: number };
  gates: Gate[];
  laps: number;
  /** The rest of its budget. */
  left: { points: number; transforms: number };
}

/**
 * Reads an SVG drawing: paths and shapes become walls (closed where they are closed or filled shapes), curves are flattened to
 * within 0.2 of a unit. What this program has written comes back as cells, surfaces, start, goal, frame and course.
 */
export function readSvg(name: string, text: string): Reading<Imported> {
  if (countUpTo(text, '<', most.elements) > most.elements) return tooMany('', 'elements', most.elements);
  if (countUpTo(text, '=', most.attributes) > most.attributes) return tooMany('', 'attributes', most.attributes);
  if (attributesInOne(text) > most.inOneElement) return tooMany('', 'attributes in one element', most.inOneElement);
  const valid = XMLValidator.validate(text);
  if (valid !== true) return refused(`line ${valid.err.line}, column ${valid.err.col}`, 'broken XML', 'well-formed XML');
  let nodes: Node[];
  try {
    nodes = new XMLParser({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '', processEntities: false }).parse(
      text,
    ) as Node[];
  } catch {
    return refused('', 'unreadable XML', 'an SVG drawing');
  }
  const root = nodes.find((node) => nameOf(node) === 'svg');
  if (!root) return refused('', 'no svg element', 'an SVG drawing');
  const attributes = attributesOf(root);
  const box = (attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
  const [left, top, width, height] =
    box.length === 4 && box.every(Number.isFinite)
      ? (box as [number, number, number, number])
      : [0, 0, Number.parseFloat(attributes['width'] ?? ''), Number.parseFloat(attributes['height'] ?? '')];
  if (!(width > 0 && height > 0)) return refused('svg', 'no size', 'a viewBox, or width and height');
  const laps = Number(attributes['data-laps'] ?? 1) || 1;
  const drawing: Drawing = {
    walls: [],
    cells: [],
    surfaces: {},
    gates: [],
    laps,
    left: { points: most.points, transforms: most.transforms },
  };
  try {
    walk(childrenOf(root), left === 0 && top === 0 ? [] : [`translate(${-left} ${-top})`], drawing, 'svg', 0);
  } catch (error) {
    if (error instanceof Unreadable) return refused(error.path, error.found, error.expected);
    throw error;
  }
  return toGround(name, drawing, width, height, Number(attributes['data-cell'] ?? 32) || 32);
}

class Unreadable extends Error {
  readonly path: string;
  readonly found: string;
  readonly expected: string;
  constructor(path: string, found: string, expected: string) {
    super(`${path}: ${found}`);
    this.path = path;
    this.found = found;
    this.expected = expected;
  }
}

function walk(nodes: readonly Node[], transforms: readonly string[], drawing: Drawing, path: string, depth: number): void {
  if (depth > DEEPEST) throw new Unreadable(path, 'deeper nesting', `at most ${DEEPEST} levels`);
  nodes.forEach((node, i) => {
    const name = nameOf(node);
    const attributes = attributesOf(node);
    if (unseen.has(name) || name.startsWith('#') || name.startsWith('?') || attributes['display'] === 'none') return;
    const here = `${path}/${name}[${i + 1}]`;
    const transform = attributes['transform'];
    if (transform && transform.length > most.transform)
      throw new Unreadable(here, `a transform of ${transform.length} characters`, `at most ${most.transform}`);
    const own = transform ? [...transforms, transform] : transforms;
    const mark = attributes['data-surface'];
    if (mark && [...mark].length === 1)
      drawing.surfaces[mark] = { name: attributes['data-name'] ?? `surface ${mark}`, speed: Number(attributes['data-speed'] ?? 1) };
    if (name === 'g' || name === 'a' || name === 'svg') walk(childrenOf(node), own, drawing, here, depth + 1);
    else takeShape(name, attributes, own, drawing, here);
  });
}

const numbers = (attributes: Attributes, ...names: string[]) => names.map((name) => Number.parseFloat(attributes[name] ?? '0') || 0);

/** A shape as path data; null for elements that aren't shapes. */
function pathOf(name: string, attributes: Attributes): string | null {
  switch (name) {
    case 'path':
      return attributes['d'] ?? '';
    case 'rect': {
      const [x, y, w, h] = numbers(attributes, 'x', 'y', 'width', 'height') as [number, number, number, number];
      return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
    }
    case 'circle':
    case 'ellipse': {
      const [cx, cy, r, rx, ry] = numbers(attributes, 'cx', 'cy', 'r', 'rx', 'ry') as [number, number, number, number, number];
      const [a, b] = name === 'circle' ? [r, r] : [rx, ry];
      return `M${cx - a} ${cy}A${a} ${b} 0 1 1 ${cx + a} ${cy}A${a} ${b} 0 1 1 ${cx - a} ${cy}Z`;
    }
    case 'line': {
      const [x1, y1, x2, y2] = numbers(attributes, 'x1', 'y1', 'x2', 'y2') as [number, number, number, number];
      return `M${x1} ${y1}L${x2} ${y2}`;
    }
    case 'polyline':
    case 'polygon':
      return attributes['points']?.trim() ? `M${attributes['points'].trim()}${name === 'polygon' ? 'Z' : ''}` : '';
    default:
      return null;
  }
}

function takeShape(name: string, attributes: Attributes, transforms: readonly string[], drawing: Drawing, here: string): void {
  const role = attributes['data-role'];
  const [x, y, cx, cy] = numbers(attributes, 'x', 'y', 'cx', 'cy') as [number, number, number, number];
  const [width, height, r] = numbers(attributes, 'width', 'height', 'r') as [number, number, number];
  if (role === 'start')
    drawing.start = { x: cx, y: cy, ...(attributes['data-facing'] ? { facing: Number(attributes['data-facing']) } : {}) };
  else if (role === 'goal') drawing.goal = { x: cx, y: cy, radius: r };
  else if (role === 'frame') drawing.frame = { x, y, width, height };
  else if (role === 'gate') {
    const [x1, y1, x2, y2] = numbers(attributes, 'x1', 'y1', 'x2', 'y2') as [number, number, number, number];
    drawing.gates.push({ from: [x1, y1], to: [x2, y2] });
  } else if (attributes['data-mark']) drawing.cells.push({ mark: attributes['data-mark'], x, y, width, height });
  else {
    const d = pathOf(name, attributes);
    if (d === null || d === '') return;
    for (const { points, closed } of piecesOf(d, transforms, drawing, here)) {
      const ends = points.at(-1);
      // A closing point that repeats the first says nothing.
      if (closed && points.length > 2 && ends?.[0] === points[0]?.[0] && ends?.[1] === points[0]?.[1]) points.pop();
      if (points.some(([px, py]) => px !== points[0]?.[0] || py !== points[0]?.[1]))
        drawing.walls.push({ points, closed, solid: attributes['data-solid'] !== 'false' });
    }
  }
}

/** A shape's path as straight pieces, within the rest of the drawing's budget. */
function piecesOf(d: string, transforms: readonly string[], drawing: Drawing, here: string): ReturnType<typeof flattenPath> {
  const { left } = drawing;
  if (numbersIn(d) > most.numbers) throw new Unreadable(here, `more than ${most.numbers} numbers in a path`, `at most ${most.numbers}`);
  left.transforms -= transforms.length;
  if (left.transforms < 0) throw new Unreadable(here, `more than ${most.transforms} transforms of shapes`, `at most ${most.transforms}`);
  try {
    const pieces = flattenPath(d, transforms, left.points);
    for (const { points } of pieces) left.points -= points.length;
    return pieces;
  } catch (error) {
    if (error instanceof TooManyPoints) throw new Unreadable(here, `more than ${most.points} points`, `at most ${most.points}`);
    const at = error instanceof BrokenPath && error.at !== null ? ` at character ${error.at}` : '';
    throw new Unreadable(here, `an unreadable path${at}`, 'path data of SVG');
  }
}

/** The cells of a drawing that has some, row by row; null if its rectangles would fill too many. */
function cellsOf({ cells }: Drawing, columns: number, rows: number, cell: number): string[] | null {
  if (cells.length === 0 || !(columns <= most.side && rows <= most.side)) return [];
  const index = (at: number, count: number) => Math.max(0, Math.min(count, Math.round(at / cell) || 0));
  const grid = Array.from({ length: rows }, () => new Array<string>(columns).fill(OPEN));
  let fills = 0;
  for (const { mark, x, y, width, height } of cells) {
    const [first, end] = [index(x, columns), index(x + width, columns)];
    const [top, bottom] = [index(y, rows), index(y + height, rows)];
    fills += Math.max(0, end - first) * Math.max(0, bottom - top);
    if (fills > most.fills) return null;
    for (let row = top; row < bottom; row++) grid[row]?.fill(mark, first, Math.max(first, end));
  }
  return grid.map((row) => row.join(''));
}

function toGround(name: string, drawing: Drawing, width: number, height: number, cell: number): Reading<Imported> {
  const remarks: string[] = [];
  const columns = Math.ceil(width / cell - 1e-9);
  const rows = Math.ceil(height / cell - 1e-9);
  const cells = cellsOf(drawing, columns, rows, cell);
  if (!cells) return tooMany('svg', 'cells that are filled', most.fills);
  const start = drawing.start ?? { x: width / 2, y: height / 2 };
  if (!drawing.start) remarks.push(`The start is placed in the middle, at ${start.x}, ${start.y}`);
  if (drawing.walls.length === 0 && cells.length === 0) remarks.push('The drawing holds no path and no shape');
  const reading = readGround({
    format: groundFormat.format,
    version: 2,
    name: name.slice(0, 120) || 'Imported ground',
    size: { width, height },
    cell,
    cells,
    surfaces: drawing.surfaces,
    walls: drawing.walls,
    start,
    ...(drawing.goal ? { goal: drawing.goal } : {}),
    ...(drawing.frame ? { frame: drawing.frame } : {}),
    ...(drawing.gates.length > 0 ? { course: { gates: drawing.gates, laps: drawing.laps } } : {}),
  });
  return reading.ok ? { ok: true, value: { ground: reading.value, remarks } } : reading;
}

/** A ground as an SVG drawing that holds everything: cells as rectangles, walls as polygons and lines, places as circles. */
export function writeSvg(ground: Ground): Exported {
  const { size, cell, surfaces, walls, start, goal, frame, course } = ground;
  const lines = [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size.width} ${size.height}" data-cell="${cell}"${course && course.laps > 1 ? ` data-laps="${course.laps}"` : ''}>`,
    `<title>${inXml(ground.name)}</title>`,
  ];
  const cells = ground.cells.length > 0 ? wholeCells(ground) : [];
  const marks = [...new Set(cells.join(''))].filter((mark) => mark !== OPEN);
  for (const mark of [...new Set([...marks, ...Object.keys(surfaces)])]) {
    const surface = surfaces[mark];
    const attributes = surface ? ` data-surface="${inXml(mark)}" data-name="${inXml(surface.name)}" data-speed="${surface.speed}"` : '';
    lines.push(`<g fill="${mark === SOLID ? '#b9a562' : '#d3e6ee'}"${attributes}>`);
    cells.forEach((row, y) => {
      for (let x = 0; x < row.length; ) {
        if (row[x] !== mark) {
          x++;
          continue;
        }
        let end = x;
        while (row[end] === mark) end++;
        lines.push(`<rect data-mark="${inXml(mark)}" x="${x * cell}" y="${y * cell}" width="${(end - x) * cell}" height="${cell}"/>`);
        x = end;
      }
    });
    lines.push('</g>');
  }
  lines.push('<g fill="#f1e4b4" stroke="#14303a">');
  for (const { points, closed, solid } of walls) {
    const attributes = solid === false ? ' data-solid="false"' : '';
    const list = points.map(([x, y]) => `${x},${y}`).join(' ');
    lines.push(closed ? `<polygon points="${list}"${attributes}/>` : `<polyline points="${list}" fill="none"${attributes}/>`);
  }
  lines.push('</g>');
  const facing = start.facing === undefined ? '' : ` data-facing="${start.facing}"`;
  lines.push(`<circle data-role="start" cx="${start.x}" cy="${start.y}" r="4" fill="#4a646d"${facing}/>`);
  if (goal) lines.push(`<circle data-role="goal" cx="${goal.x}" cy="${goal.y}" r="${goal.radius}" fill="none" stroke="#0f7a5a"/>`);
  if (frame)
    lines.push(
      `<rect data-role="frame" x="${frame.x}" y="${frame.y}" width="${frame.width}" height="${frame.height}" fill="none" stroke="#b01e68"/>`,
    );
  for (const { from, to } of course?.gates ?? [])
    lines.push(
      `<line data-role="gate" x1="${from[0]}" y1="${from[1]}" x2="${to[0]}" y2="${to[1]}" stroke="#0f7a5a" stroke-dasharray="7 4"/>`,
    );
  lines.push('</svg>');
  return { content: `${lines.join('\n')}\n`, lost: ground.unit === 'm' ? ['the unit (it is read back as px)'] : [] };
}
