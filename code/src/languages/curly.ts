import { inComment } from '@zygopod/core';
import { type Expression, type Kind, kindOf, type Routine, type Statement } from '../fold/ir.ts';
import { Printer } from './printer.ts';
import { docOf, filled, type Motion } from './program.ts';

/** Letters of a line that holds all of an `if`. */
const LINE = 136;
/** And of one of plain settings. */
const SHORT = 124;

/** Syntax shared by the languages with braces. */
export abstract class Curly extends Printer {
  protected readonly indent: string = '    ';
  protected readonly words = { and: '&&', or: '||', unlike: '!=', like: '==', not: '!', yes: 'true', no: 'false' };
  protected abstract local(name: string, value: string, kind: Kind): string;
  protected readonly bracketed: boolean = true;
  /** Words before locals that may share a line. */
  protected readonly types: readonly string[] = [];

  protected choice(test: string, yes: string, no: string): string {
    return `(${test} ? ${yes} : ${no})`;
  }

  protected statement(s: Statement, depth: number, steps: Statement[]): string[] {
    const test = (text: string) => (this.bracketed ? `(${text})` : text);
    switch (s.is) {
      case 'local':
        return [this.at(depth, this.local(this.localName(s.name), this.expression(s.value), kindOfStatement(s)))];
      case 'set':
        return [this.at(depth, `${this.target(s.target)} = ${this.expression(s.value)};`)];
      case 'if':
        return this.chainOnLines(s, depth, steps) ?? this.chain(s, depth, steps);
      case 'loop':
        return [
          this.at(depth, `while ${test(this.expression(s.test))} {`),
          ...this.statements(s.body, depth + 1, s.step),
          ...this.statements(s.step, depth + 1),
          this.at(depth, '}'),
        ];
      case 'next':
        return [...this.statements(steps, depth), this.at(depth, 'continue;')];
      case 'leave':
        return [this.at(depth, 'break;')];
      case 'return':
        return [this.at(depth, s.value ? `return ${this.expression(s.value)};` : 'return;')];
      case 'do':
        return [this.at(depth, `${this.expression(s.value)};`)];
    }
  }

  /** The target of an assignment, before the sign. */
  protected target(e: Expression): string {
    return this.expression(e);
  }

  /** An `if` and what follows when it fails, each branch on a line of its own; null if one is too long for that. */
  private chainOnLines(s: If, depth: number, steps: Statement[]): string[] | null {
    const lines: string[] = [];
    for (let one: If | null = s, word = ''; one; word = 'else ') {
      const yes = this.short(one.yes, steps);
      lines.push(this.at(depth, `${word}if ${this.test(one)} { ${yes} }`));
      const rest: readonly Statement[] = one.no;
      const [next] = rest;
      one = rest.length === 1 && next?.is === 'if' ? next : null;
      const no = one ? '' : this.short(rest, steps);
      if (yes === null || no === null) return null;
      if (!one && no !== '') lines.push(this.at(depth, `else { ${no} }`));
    }
    const whole = [lines[0], ...lines.slice(1).map((line) => line.trimStart())].join(' ');
    if (whole.length <= LINE) return [whole];
    return lines.every((line) => line.length <= LINE) ? lines : null;
  }

  private chain(s: If, depth: number, steps: Statement[], word = ''): string[] {
    const lines = [this.at(depth, `${word}if ${this.test(s)} {`), ...this.statements(s.yes, depth + 1, steps)];
    if (s.no.length === 0) return [...lines, this.at(depth, '}')];
    const [first, ...more] = s.no;
    if (first?.is === 'if' && more.length === 0) return [...lines, ...this.chain(first, depth, steps, '} else ')];
    const no = this.short(s.no, steps);
    const line = this.at(depth, `} else { ${no} }`);
    if (no !== null && line.length <= LINE) return [...lines, line];
    return [...lines, this.at(depth, '} else {'), ...this.statements(s.no, depth + 1, steps), this.at(depth, '}')];
  }

  private test({ test }: If): string {
    return this.bracketed ? `(${this.expression(test)})` : this.expression(test);
  }

  /** Statements line by line; what is set of x and then of y shares one, as do plain settings one after the other. */
  protected override statements(all: readonly Statement[], depth: number, steps: Statement[] = []): string[] {
    const lines: string[] = [];
    for (const [i, one] of all.entries()) {
      const own = this.statement(one, depth, steps);
      const before = all[i - 1];
      const line = `${lines.at(-1)} ${(own[0] ?? '').trimStart()}`;
      if (
        before &&
        own.length === 1 &&
        line.length <= (isPair(before, one) ? LINE : SHORT) &&
        (isPair(before, one) || (isPlain(before) && isPlain(one)))
      )
        lines[lines.length - 1] = line;
      else lines.push(...own);
    }
    return lines;
  }

  /** At most two plain statements as they stand in one line; null if they are more. */
  protected short(all: readonly Statement[], steps: Statement[]): string | null {
    if (all.length > 2 || all.some(({ is }) => is === 'if' || is === 'loop')) return null;
    return this.statements(all, 0, steps).join(' ');
  }

  /** Lines in which what one type of locals is given stands together, where the language has that. */
  protected together(lines: readonly string[], types: readonly string[]): string[] {
    const out: string[] = [];
    for (const line of lines) {
      const last = out.at(-1) ?? '';
      const type = types.find((one) => line.trimStart().startsWith(one));
      const more = type && line.trimStart().slice(type.length, -1);
      const goesOn =
        type &&
        more &&
        last.slice(0, line.length - line.trimStart().length + type.length) ===
          line.slice(0, line.length - line.trimStart().length + type.length);
      if (goesOn && last.length + more.length + 2 <= LINE) out[out.length - 1] = `${last.slice(0, -1)}, ${more};`;
      else out.push(line);
    }
    return out;
  }

  /** How the functions of a file begin, and how deep they stand in it. */
  protected abstract head(routine: Routine): string;
  protected readonly depth: number = 0;

  /** All functions, each with its comment. */
  protected routines(all: readonly Routine[]): string {
    const { depth } = this;
    return all
      .map((routine) => [...this.doc(routine, depth), ...this.routine(this.head(routine), routine.body, depth), ''].join('\n'))
      .join('\n');
  }

  /** A function: on one line where its body is one short statement. */
  protected routine(head: string, body: readonly Statement[], depth: number): string[] {
    const lines = this.together(this.statements(body, depth + 1), this.types);
    const line = this.at(depth, `${head} { ${(lines[0] ?? '').trimStart()} }`);
    return lines.length === 1 && line.length <= LINE ? [line] : [this.at(depth, `${head} {`), ...lines, this.at(depth, '}')];
  }

  protected doc({ words, source }: Routine, depth: number): string[] {
    return [this.at(depth, `/* ${filled(inComment(docOf({ words, source }))).join(`\n${this.at(depth, '   ')}`)} */`)];
  }

  protected steps({ tick }: Motion): string[] {
    return tick.map((routine) => `${this.call(this.routineName(routine.name), [], routine)};`);
  }
}

type If = Extract<Statement, { is: 'if' }>;

const isField = (e: Expression) => e.is === 'body' || e.is === 'walls';

/** True if two statements set the same of x and of y. */
function isPair(one: Statement, next: Statement): boolean {
  if (one.is !== 'set' || next.is !== 'set' || !isField(one.target) || !isField(next.target)) return false;
  return /[xX]$/.test(one.target.field) && one.target.field.replace(/x$/, 'y').replace(/X$/, 'Y') === next.target.field;
}

/** True if a statement sets a field to what is at hand. */
const isPlain = (one: Statement): boolean =>
  one.is === 'set' && isField(one.target) && (one.value.is === 'number' || isField(one.value) || one.value.is === 'local');

const kindOfStatement = (s: Extract<Statement, { is: 'local' }>): Kind => kindOf(s.value);
