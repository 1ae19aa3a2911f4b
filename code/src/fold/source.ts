import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

/** The sources of the core, whether these or what was made of them is run. */
const CORE = resolve(dirname(fileURLToPath(import.meta.resolve('@zygopod/core'))), '../src');

/** A function or constant of the core, where it stands. */
export interface Declared {
  file: SourceOf;
  node: ts.FunctionDeclaration | ts.VariableDeclaration;
}

/** A file of the core, taken apart. */
export class SourceOf {
  readonly path: string;
  /** Where it stands in the core, as a reader of the repository finds it. */
  readonly place: string;
  readonly declared = new Map<string, ts.FunctionDeclaration | ts.VariableDeclaration>();
  readonly imports = new Map<string, { path: string; name: string }>();

  constructor(path: string, place: string) {
    this.path = path;
    this.place = place;
    const tree = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.ESNext, true);
    for (const statement of tree.statements) {
      if (ts.isFunctionDeclaration(statement) && statement.name) this.declared.set(statement.name.text, statement);
      else if (ts.isVariableStatement(statement))
        for (const one of statement.declarationList.declarations) if (ts.isIdentifier(one.name)) this.declared.set(one.name.text, one);
      if (!ts.isImportDeclaration(statement) || !ts.isStringLiteral(statement.moduleSpecifier)) continue;
      const bindings = statement.importClause?.namedBindings;
      if (!bindings || !ts.isNamedImports(bindings)) continue;
      const from = resolve(dirname(path), statement.moduleSpecifier.text);
      for (const { name, propertyName } of bindings.elements)
        this.imports.set(name.text, { path: from, name: (propertyName ?? name).text });
    }
  }

  /** The calls that a function consists of, each with its arguments as they stand. Throws if it is anything else than calls. */
  callsOf(name: string): { name: string; args: string[] }[] {
    const found = this.declared.get(name);
    if (!found || !ts.isFunctionDeclaration(found) || !found.body) throw new Error(`${this.place} has no function ${name}`);
    return found.body.statements.map((statement) => {
      if (!ts.isExpressionStatement(statement) || !ts.isCallExpression(statement.expression))
        throw new Error(`${name} in ${this.place} does more than to call: ${statement.getText()}`);
      const { expression, arguments: args } = statement.expression;
      return { name: expression.getText(), args: args.map((one) => one.getText()) };
    });
  }
}

/** The core's sources, read on demand. */
export class Sources {
  readonly #files = new Map<string, SourceOf>();
  readonly #core: string;

  constructor(core = CORE) {
    this.#core = core;
  }

  file(path: string): SourceOf {
    const whole = path.startsWith('/') ? path : join(this.#core, path);
    const known = this.#files.get(whole) ?? new SourceOf(whole, whole.slice(this.#core.length + 1));
    this.#files.set(whole, known);
    return known;
  }

  /** The declaration of a file's name; null if it is neither its own nor imported. */
  find(file: SourceOf, name: string): Declared | null {
    const own = file.declared.get(name);
    if (own) return { file, node: own };
    const imported = file.imports.get(name);
    return imported ? this.find(this.file(imported.path), imported.name) : null;
  }
}

/** The text of the doc comment before a declaration. */
export function wordsOf(node: ts.Node): string {
  const text = node.getSourceFile().text;
  const range = ts.getLeadingCommentRanges(text, node.getFullStart())?.at(-1);
  const comment = range ? text.slice(range.pos, range.end) : '';
  return comment.startsWith('/**')
    ? comment
        .slice(3, -2)
        .split('\n')
        .map((line) => line.replace(/^\s*\*? ?/, '').trimEnd())
        .join('\n')
        .trim()
    : '';
}
