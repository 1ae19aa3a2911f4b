import { type Found, foundOf } from './found.ts';
import { Scan } from './scan.ts';
import { readTable } from './table.ts';
import { type Comment, LONGEST, tokensOf } from './tokens.ts';
import { treeOf } from './tree.ts';
import { isXml, readXml } from './xml.ts';

/** Numbers that are found at most. */
const MOST = 5000;

/** A source as it was read. */
export interface Source {
  found: Found[];
  /** All of its remarks, which may speak of its units. */
  remarks: string[];
  text: string;
}

/** The numbers, flags and words of code in any language, or of a JSON, YAML, INI, TOML, XML or CSV fragment, with their names and places. */
export function readSource(code: string): Source {
  const text = code.slice(0, LONGEST);
  if (isXml(text)) {
    const remarks = [...text.matchAll(/<!--([\s\S]*?)-->/g)].map(([, remark]) => (remark ?? '').trim());
    return { found: finished(readXml(text), []), remarks, text };
  }
  const table = readTable(text);
  if (table) return { found: finished(table, []), remarks: [], text };
  const { tokens, comments } = tokensOf(text);
  const { found } = new Scan(treeOf(tokens), comments).readings;
  return { found: finished(found, comments), remarks: comments.map((one) => one.text), text };
}

/** In the order of the text, with the remarks that stand in their lines behind them. */
function finished(readings: readonly Parameters<typeof foundOf>[0][], comments: readonly Comment[]): Found[] {
  const byLine = new Map<number, string>();
  for (const { line, text, isAlone } of comments) if (!isAlone) byLine.set(line, `${byLine.get(line) ?? ''} ${text}`.trim());
  return readings
    .map((reading) => foundOf(reading, byLine.get(reading.line) ?? ''))
    .sort((a, b) => a.at - b.at)
    .slice(0, MOST);
}
