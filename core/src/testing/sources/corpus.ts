import { readFileSync } from 'node:fs';
import { specs } from '../../tuning/catalogue/catalogue.ts';

/** A number, flag or word of a fragment, and the parameter that it is. Test data. */
export interface Mark {
  /** Where its text ends in the code. */
  end: number;
  path: string;
  /** The tuning's values, in px, s and degrees, if the fragment states its units. */
  value?: number;
  /** Nobody could be sure: left out it is no miss. */
  isDoubtful: boolean;
}

/** A piece of what a game has, made up. Test data. */
export interface Fragment {
  title: string;
  code: string;
  marks: Mark[];
}

/** `«walkSpeed»` behind a number says what it is; `?` that it may be left, `=` what it comes to. */
const mark = / ?«([\w.]+)(\?)?(?:=([\d.]+))?»/g;

/** A parameter by the last part of its path, where no other has the same. */
function pathOf(name: string): string {
  const all = [...specs.keys()].filter((path) => path === name || path.endsWith(`.${name}`));
  if (all.length !== 1) throw new Error(`«${name}» is ${all.join(', ') || 'no parameter'}`);
  return all[0] as string;
}

function fragmentOf(title: string, marked: string): Fragment {
  const marks: Mark[] = [];
  let removed = 0;
  const code = marked.replace(mark, (whole: string, name: string, doubt: string | undefined, value: string | undefined, at: number) => {
    marks.push({ end: at - removed, path: pathOf(name), isDoubtful: doubt !== undefined, ...(value ? { value: Number(value) } : {}) });
    removed += whole.length;
    return '';
  });
  return { title, code, marks };
}

/** The fragments of a file of the corpus: `=== title` before each. */
export function fragmentsOf(file: 'compiled' | 'scripts' | 'data'): Fragment[] {
  const text = readFileSync(new URL(`${file}.txt`, import.meta.url), 'utf8');
  return text
    .split(/^=== /m)
    .slice(1)
    .map((part) => {
      const end = part.indexOf('\n');
      return fragmentOf(part.slice(0, end), part.slice(end + 1));
    });
}
