/** A file that was generated, with its place in a folder. */
export interface GeneratedFile {
  path: string;
  text: string;
}

/** Characters of a text that are encoded at a time. */
const SLICE = 64 * 1024;

/** Generates `{ "files": [{ path, text }, …] }` piece by piece. Takes each file out of `files`, so that its memory is given back as it is read. */
export async function* jsonOfFiles(files: GeneratedFile[]): AsyncGenerator<string> {
  yield '{"files":[';
  for (let file = files.shift(), i = 0; file; file = files.shift(), i++) {
    yield `${i > 0 ? ',' : ''}{"path":${JSON.stringify(file.path)},"text":"`;
    // A surrogate pair that is split is escaped by halves, which any reader puts together again (RFC 8259, section 7).
    for (let from = 0; from < file.text.length; from += SLICE) yield JSON.stringify(file.text.slice(from, from + SLICE)).slice(1, -1);
    yield '"}';
  }
  yield ']}';
}
