import type { z } from 'zod';

/** A fault of a document: its place, what was found, what was expected. Paths are dotted; '' is the whole file. */
export interface Fault {
  path: string;
  found: string;
  expected: string;
}

/** A document that was read, or everything that is wrong with it. */
export type Reading<T> = { ok: true; value: T } | { ok: false; faults: Fault[] };

/** `pace.walkSpeed: found "fast", expected a number`; control characters of terminals are escaped. */
export function faultText(fault: Fault): string {
  return printable(`${fault.path ? `${fault.path}: ` : ''}found ${fault.found}, expected ${fault.expected}`);
}

/** Characters that terminals act on, or that turn the order of a text: controls (C0 without the line feed, C1), line and bidi marks. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: the pattern searches for them
const ACTING = /[\u0000-\u0009\u000b-\u001f\u007f-\u009f\u200e\u200f\u2028-\u202e\u2066-\u2069]/g;

/** A text from outside, made printable: control characters of terminals are escaped. */
export function printable(text: string): string {
  return text.replace(ACTING, (mark) => `\\u${mark.charCodeAt(0).toString(16).padStart(4, '0')}`);
}

/** Maximum length of a key in a reported path. */
const LONGEST_KEY = 60;

/** Keys as a dotted path; long ones are cut. */
function dotted(path: readonly PropertyKey[]): string {
  return path
    .map(String)
    .map((key) => (key.length > LONGEST_KEY ? `${key.slice(0, LONGEST_KEY - 1)}…` : key))
    .join('.');
}

/** A value in few words; never walks into lists or objects, which may be deep. */
export function shown(value: unknown): string {
  if (value === undefined) return 'nothing';
  if (Array.isArray(value)) return `a list of ${value.length}`;
  if (typeof value === 'object' && value !== null) return 'an object';
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

function valueAt(root: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>(
    (value, key) => (typeof value === 'object' && value !== null ? (value as Record<PropertyKey, unknown>)[key] : undefined),
    root,
  );
}

type Issue = z.core.$ZodIssue;

const plainTypes: Record<string, string> = {
  string: 'a text',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  int: 'a whole number',
};

function expectation(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return plainTypes[issue.expected] ?? `a ${issue.expected}`;
    case 'invalid_value':
      return issue.values.length === 1 ? shown(issue.values[0]) : `one of ${issue.values.map(shown).join(', ')}`;
    case 'too_small':
      return `${measured(issue.origin)} ${issue.inclusive ? 'of at least' : 'above'} ${issue.minimum}`;
    case 'too_big':
      return `${measured(issue.origin)} ${issue.inclusive ? 'of at most' : 'below'} ${issue.maximum}`;
    default:
      return issue.message;
  }
}

function measured(origin: string): string {
  return origin === 'string' ? 'a length' : origin === 'array' ? 'a list length' : 'a value';
}

/** A union fails in every branch; the branch that got furthest is the one that was meant. */
function meantBranch(branches: readonly (readonly Issue[])[]): readonly Issue[] | undefined {
  return branches.find((branch) => branch.some((issue) => issue.path.length > 0 || issue.code !== 'invalid_type'));
}

/** The faults behind a failed Zod parse of `root`. */
export function faultsOf(error: { issues: readonly Issue[] }, root: unknown, prefix: readonly PropertyKey[] = []): Fault[] {
  return error.issues.flatMap((issue): Fault[] => {
    const path = [...prefix, ...issue.path];
    if (issue.code === 'unrecognized_keys')
      return issue.keys.map((key) => ({ path: dotted([...path, key]), found: 'an unknown key', expected: 'only keys of the format' }));
    if (issue.code === 'invalid_key') {
      const expected = issue.issues.map((inner) => expectation(inner as Issue));
      return [{ path: dotted(path), found: `the name ${shown(issue.path.at(-1))}`, expected: `a name that is ${expected.join(' and ')}` }];
    }
    if (issue.code === 'invalid_union') {
      const branch = meantBranch(issue.errors);
      if (branch) return faultsOf({ issues: branch }, root, path);
      const expected = issue.errors.flatMap((errors) => errors.map(expectation));
      return [{ path: dotted(path), found: shown(valueAt(root, path)), expected: [...new Set(expected)].join(' or ') }];
    }
    return [{ path: dotted(path), found: shown(valueAt(root, path)), expected: expectation(issue) }];
  });
}
