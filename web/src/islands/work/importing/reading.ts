import { type Fault, faultText, LARGEST_PROJECT, type Member, type Project, parseAny } from '@zygopod/core';

/** A file to import: its documents and its faults. */
export interface ReadFile {
  name: string;
  /** A project's own values, where the file is one. */
  project: Pick<Project, 'name' | 'unit' | 'names'> | null;
  /** The documents that are good. */
  members: Member[];
  /** Faults, described with their paths. */
  faults: string[];
}

/** Maximum number of faults reported per file. */
const LISTED = 8;

const problems = (faults: readonly Fault[]) => [
  ...faults.slice(0, LISTED).map(faultText),
  ...(faults.length > LISTED ? [`and ${faults.length - LISTED} more`] : []),
];

/** Reads a file of any kind; one that is too large is not opened. */
export async function readFile(file: Pick<File, 'name' | 'size' | 'text'>): Promise<ReadFile> {
  const { name } = file;
  const none = (fault: string): ReadFile => ({ name, project: null, members: [], faults: [fault] });
  if (file.size > LARGEST_PROJECT)
    return none(`found ${file.size.toLocaleString('en')} bytes, expected at most ${LARGEST_PROJECT.toLocaleString('en')}`);
  if (/\.(svg|png|map|csv)$/i.test(name)) return none('is no Zygopod file: grounds of other formats are imported on the Grounds screen');
  let text: string;
  try {
    text = await file.text();
  } catch {
    return none('cannot be read: it was changed or removed meanwhile');
  }
  const read = parseAny(text);
  if (!read.ok) return { name, project: null, members: [], faults: problems(read.faults) };
  const { project, members } = read.value;
  return {
    name,
    project,
    members: members.filter(({ reading }) => reading.ok),
    faults: members.flatMap((member) =>
      member.reading.ok ? [] : problems(member.reading.faults).map((fault) => (member.name ? `${member.name}: ${fault}` : fault)),
    ),
  };
}

/** The kind of document that a file says it is, whatever its name; null if it says none that is known. */
export async function kindOf(file: Pick<File, 'size' | 'text'>): Promise<string | null> {
  if (file.size > LARGEST_PROJECT) return null;
  try {
    const { format } = JSON.parse((await file.text()).replace(/^\uFEFF/, '')) as { format?: unknown };
    return /^zygopod\/(tuning|ground|tape|targets|sweep|project)$/.exec(String(format))?.[1] ?? null;
  } catch {
    return null;
  }
}

/** Maximum number of requests at a time. */
const AT_ONCE = 4;

/** Does something for each of many, a few at a time, in order. `done` hears how many are. */
export async function forEach<T>(all: readonly T[], work: (one: T) => Promise<void>, done: (count: number) => void): Promise<void> {
  let [next, count] = [0, 0];
  const worker = async () => {
    while (next < all.length) {
      const one = all[next++] as T;
      await work(one);
      done(++count);
    }
  };
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, all.length) }, worker));
}
