/**
 * Characters that end a line in some language (LF, CR, VT, FF, NEL, U+2028, U+2029), other controls, and marks that change the direction of
 * what follows them on a screen (Boucher and Anderson, Trojan Source, 2021).
 */
const UNSEEN = /[\p{Cc}\u2028\u2029\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu;

/** Halves of surrogate pairs without the other half: no file in UTF-8 can hold them. */
const HALVES = /\p{Cs}/gu;

const oneLine = (text: string) => text.replace(UNSEEN, ' ').replace(HALVES, '\ufffd');

/**
 * A text as it can stand within a comment of any language: it stays on its line, neither begins nor ends a comment, isn't read as the encoding
 * of a Python file (PEP 263), and doesn't continue the line.
 */
export const inComment = (text: string): string =>
  oneLine(text)
    .replace(/\*(?=\/)|\/(?=\*)|coding(?=[:=])|--(?=\[)/g, '$& ')
    .replace(/\\(?=\s*$)/, '\\ .');

/** A text as it can stand within a Python documentation string. */
export const inDocstring = (text: string): string => oneLine(text).replaceAll('\\', '/').replaceAll('"', "'");

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** A text as it can stand in the text or an attribute of XML 1.0, SVG, MathML and HTML. */
export const inXml = (text: string): string =>
  text
    .replace(HALVES, '\ufffd')
    // XML 1.0 has no other control characters, and parsers make spaces of those in attributes.
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they are just what is removed
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"'\t\n\r]/g, (mark) => ENTITIES[mark] ?? `&#${mark.charCodeAt(0)};`);

/** A text as it can stand in a line or a table's cell of Markdown (CommonMark 0.31, 2.4): nothing in it is markup. */
export const inMarkdown = (text: string): string => oneLine(text).replace(/[!-/:-@[-`{-~]/g, '\\$&');

/** A text that spreadsheets would run as a formula; an apostrophe before it prevents that, and is removed again on reading. */
const FORMULA = /^'*[=+\-@\t\r]/;

/**
 * A cell of comma-separated values (RFC 4180). A text that a spreadsheet would take for a formula gets an apostrophe in front of it, which
 * `fromCsvCell` takes away; numbers stay numbers.
 */
export function csvCell(value: string | number): string {
  if (typeof value === 'number') return String(value);
  const text = FORMULA.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) || text !== value ? `"${text.replaceAll('"', '""')}"` : text;
}

/** A line of comma-separated values. */
export const csvLine = (cells: readonly (string | number)[]): string => `${cells.map(csvCell).join(',')}\r\n`;

/** The text of a cell that `csvCell` wrote, once its quotes are off. */
export const fromCsvCell = (text: string): string => (text.startsWith("'") && FORMULA.test(text) ? text.slice(1) : text);

/** A name that every language takes for an identifier: letters and digits of ASCII, `Tuning` where none is left. */
export function identifierOf(text: string): string {
  const kept = text
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '');
  return /^[A-Za-z]/.test(kept) ? kept : kept === '' ? 'Tuning' : `Tuning_${kept}`;
}
