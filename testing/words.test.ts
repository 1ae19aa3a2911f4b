import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..');

/** Files below a folder whose paths match. */
const filesBelow = (folder: string, wanted: RegExp): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((path) => wanted.test(path) && !/(^|\/)(node_modules|dist|testing)\//.test(path))
    .map((path) => join(folder, path));

interface Text {
  text: string;
  place: string;
}

/** Attributes whose values nobody reads. */
const SILENT = new Set(['className', 'd', 'style', 'data-testid', 'id', 'href', 'key', 'transform', 'points', 'viewBox', 'name', 'type']);

/** Lists the texts of a source file that people may read: strings and JSX text with at least two words; `…` stands for an expression. */
function textsOf(path: string): Text[] {
  const source = ts.createSourceFile(path, readFileSync(join(root, path), 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: Text[] = [];
  const add = (node: ts.Node, text: string) => {
    const words = text.replace(/\s+/g, ' ').trim();
    if (!/\p{L}+[ ’]\p{L}/u.test(words)) return;
    found.push({ text: words, place: `${path}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}` });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isJsxAttribute(node) && SILENT.has(node.name.getText())) return;
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) add(node, node.text);
    else if (ts.isJsxText(node)) add(node, node.text);
    else if (ts.isTemplateExpression(node))
      add(node, node.head.text + node.templateSpans.map(({ literal }) => `…${literal.text}`).join(''));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** All TypeScript of the repository. */
const code = ['core/src', 'code/src', 'cli/src', 'web/src', 'e2e', 'testing'].flatMap((folder) => filesBelow(folder, /\.tsx?$/));

const isTest = (path: string): boolean => /\.(test|integration|spec)\.tsx?$/.test(path) || /^(e2e|testing)\//.test(path);

/** Sources whose texts stand on a screen, in a file, in the terminal or in the API’s description, and the pages. */
const spoken = [...code.filter((path) => !isTest(path)), ...filesBelow('web/src/pages', /\.astro$/)];

/** Phrases that the glossary has better words for. */
const banned = [
  /\bput(s|ting)? (it |them |this |this one |the \w+ )?away\b/i,
  /\b(bring|brings|brought) (it |them |this |this one |the \w+ )?(back|in)\b/i,
  /\b(take|takes|taken|took) (it |them |this |this one |the \w+ )?(out|back)\b/i,
  /\bremove(s|d)? .*for good\b/i,
  /\bTake it\b/,
  /\bWhat that does\b/,
  /\bWhen they part\b/,
  /\bUp to speed\b/i,
  /\bnine tenths\b/i,
  /\bLeast stick\b/i,
  /\blumps?\b/i,
  /\bSpent pace\b/i,
  /\bShare a tick\b/i,
  /\bContacts in a tick\b/i,
  /\bstands by itself\b/i,
  /\bgoes on when empty\b/i,
  /\bas much as is neither\b/i,
  /\bby a tenth\b/i,
  /\bdo not lead\b/i,
  /\bForget what\b/i,
  /\bPart of its name\b/i,
  /\bDay or night\b/i,
  /\bdriven again\b/i,
  /\b(tell|tells|told)\b/i,
  /\bways?\b/i,
  /\bdeeds?\b/i,
  /\blikeness\b/i,
  /\banew\b/i,
  /\blooked (into|at)\b/i,
];

/** Words that a sentence of the interface may have at the most. */
const LONGEST = 25;

const sentences = (text: string): string[] => text.split(/[.!?:;](?=\s|$)/);
const wordsIn = (sentence: string): number => sentence.split(/[\s/]+/).filter((word) => /\p{L}/u.test(word)).length;

describe('what people read', () => {
  // Lists of names and programs in other languages are no prose.
  const lists = /^code\/src\/languages\/|^core\/src\/formats\/source\/(cells|meanings|vocabulary)\.ts$/;
  const texts = spoken
    .filter((path) => !lists.test(path))
    .flatMap(textsOf)
    .filter(({ text }) => !/[;{}] |SELECT|select /.test(text));

  it('is in the words of the glossary', () => {
    const wrong = texts.flatMap(({ text, place }) => banned.filter((one) => one.test(text)).map((one) => `${place} ${one}: ${text}`));
    expect(wrong).toEqual([]);
  });

  it(`has at most ${LONGEST} words in a sentence`, () => {
    const long = texts
      .filter(({ text }) => sentences(text).some((one) => wordsIn(one) > LONGEST))
      .map(({ text, place }) => `${place}: ${text}`);
    expect(long).toEqual([]);
  });
});

describe('the code', () => {
  it('has no name from the old words', () => {
    const old = /(^|[a-z$#_])([tT]old|[aA]sked|[lL]ooked)($|[A-Z])|^#?tell($|[A-Z])/;
    const wrong = code.flatMap((path) => {
      const source = ts.createSourceFile(path, readFileSync(join(root, path), 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
      const names: string[] = [];
      const visit = (node: ts.Node): void => {
        if ((ts.isIdentifier(node) || ts.isPrivateIdentifier(node)) && old.test(node.text)) names.push(`${path}: ${node.text}`);
        ts.forEachChild(node, visit);
      };
      visit(source);
      return names;
    });
    expect(wrong).toEqual([]);
  });

  it('generates comments in the words of the glossary', () => {
    const comments = code
      .filter((path) => path.startsWith('code/src/languages/') && !isTest(path))
      .flatMap((path) =>
        [...readFileSync(join(root, path), 'utf8').matchAll(/(?:\/\*+|\/{2,3}|--|^#|"{3}) ?[A-Z](?:(?!\*\/|\\n|"{3}).)*/gm)].map(
          ([text]) => ({ text, path }),
        ),
      );
    expect(comments.length).toBeGreaterThan(60);
    const wrong = comments.flatMap(({ text, path }) => banned.filter((one) => one.test(text)).map((one) => `${path} ${one}: ${text}`));
    expect(wrong).toEqual([]);
  });

  it('has doc comments that begin with a verb or the documented noun', () => {
    const riddles = /\/\*\*[\s*]*(What|Whether|Tells|Told|Who)\b[^\n]*/g;
    const wrong = code.flatMap((path) => [...readFileSync(join(root, path), 'utf8').matchAll(riddles)].map(([text]) => `${path}: ${text}`));
    expect(wrong).toEqual([]);
  });
});

describe('the docs', () => {
  it('are in the words of the glossary', () => {
    const pages = ['README.md', ...filesBelow('docs', /\.md$/)];
    const wrong = pages.flatMap((page) => {
      const prose = readFileSync(join(root, page), 'utf8')
        .replace(/```[\s\S]*?```/g, '')
        .replace(/`[^`\n]*`/g, '');
      return banned.filter((one) => one.test(prose)).map((one) => `${page} ${one}: ${one.exec(prose)?.[0]}`);
    });
    expect(pages.length).toBeGreaterThan(8);
    expect(wrong).toEqual([]);
  });
});

describe('the glossary', () => {
  it('names what exists in the code', () => {
    const names = readFileSync(join(root, 'docs/glossary.md'), 'utf8')
      .split('\n')
      .filter((line) => line.startsWith('| ') && !line.startsWith('| word') && !line.startsWith('| ---'))
      .flatMap((line) => [...(line.split('|')[3] ?? '').matchAll(/`(\w+)`/g)].map(([, name]) => name as string));
    expect(names.length).toBeGreaterThan(30);
    const text = code.map((path) => readFileSync(join(root, path), 'utf8')).join('\n');
    expect(names.filter((name) => !new RegExp(`\\b${name}\\b`).test(text))).toEqual([]);
  });
});
