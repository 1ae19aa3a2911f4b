import { csvParseRows } from 'd3-dsv';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { nastyNames } from '../testing/nastyNames.ts';
import { csvLine, fromCsvCell, identifierOf, inComment, inDocstring, inMarkdown, inXml } from './escaping.ts';
import { junitXml } from './junit.ts';

const names = nastyNames(400);

describe('a text in comma-separated values', () => {
  it('reads back the same, and is no formula to a spreadsheet', () => {
    const row: (string | number)[] = [...names, -7, 0.5];
    const [read] = csvParseRows(csvLine(row));
    expect(read?.map(fromCsvCell)).toEqual(row.map(String));
    for (const [i, cell] of (read ?? []).entries()) if (typeof row[i] === 'string') expect(cell).not.toMatch(/^[=+\-@\t\r]/);
  });
});

describe('a text in XML', () => {
  const parser = new XMLParser({ ignoreAttributes: false, trimValues: false, parseAttributeValue: false, parseTagValue: false });
  // XML 1.0 cannot represent other control characters.
  // biome-ignore lint/suspicious/noControlCharactersInRegex: the comparison leaves them out
  const holdable = (name: string) => name.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');

  it('is one text, whatever is in it', () => {
    for (const name of names) {
      const xml = `<a b="${inXml(name)}">x${inXml(name)}x</a>`;
      expect(XMLValidator.validate(xml)).toBe(true);
      const read = parser.parse(xml, true) as { a: { '@_b': string; '#text': string } };
      expect(Object.keys(read.a).sort()).toEqual(['#text', '@_b']);
      expect(unnumbered(read.a['@_b'])).toBe(holdable(name));
      expect(unnumbered(read.a['#text'])).toBe(`x${holdable(name)}x`);
    }
  });

  it('leaves a report for build servers whole', () => {
    for (const name of names.slice(0, 200)) expect(XMLValidator.validate(junitXml(name, [], [], 0))).toBe(true);
  });

  /** Numbered characters, where the parser leaves them. */
  const unnumbered = (text: string) => text.replace(/&#(\d+);/g, (_, code: string) => String.fromCharCode(Number(code)));
});

describe('a text in Markdown', () => {
  it('has a backslash before each mark, and is the same without them', () => {
    for (const name of names) {
      const text = inMarkdown(name);
      expect(text.replace(/\\[!-/:-@[-`{-~]/g, '')).not.toMatch(/[!-/:-@[-`{-~\n\r\u2028]/);
      expect(text.replace(/\\([!-/:-@[-`{-~])/g, '$1')).toBe(name.replace(/[\p{Cc}\u2028\u2029\u202e\u2066]/gu, ' '));
    }
  });
});

describe('a text in a comment', () => {
  it('stays on its line, and neither begins nor ends one', () => {
    for (const name of names) {
      expect(inComment(name)).not.toMatch(/[\p{Cc}\u2028\u2029\u202a-\u202e\u2066-\u2069]|\*\/|\/\*|\\\s*$|coding[:=]/u);
      expect(inDocstring(name)).not.toMatch(/[\p{Cc}\u2028\u2029\u202a-\u202e\u2066-\u2069]|["\\]/u);
    }
  });

  it('keeps what is harmless', () => {
    expect(inComment('Carrier, day boots: 2 × “é” / 漢字')).toBe('Carrier, day boots: 2 × “é” / 漢字');
  });
});

describe('an identifier', () => {
  it('is one in every language', () => {
    for (const name of [...names, '', '漢字', '3 boots', '__']) expect(identifierOf(name)).toMatch(/^[A-Za-z][A-Za-z0-9_]*$/);
  });
});
