import { csvLine, readTuning, specs, tuningNumbers } from '@zygopod/core';

/** The numbers of tunings as comma-separated values (RFC 4180): a row a parameter, a column a tuning, in the catalogue's order. */
export function numbersCsv(files: readonly unknown[]): string {
  const read = files.map((file) => readTuning(file)).flatMap((one) => (one.ok ? [one.value] : []));
  const numbers = read.map(tuningNumbers);
  const paths = [...specs].filter(([, { kind }]) => kind === 'number').map(([path]) => path);
  const lines = [
    ['path', 'name', ...read.map(({ file }) => file.name)],
    ...paths.map((path) => [path, specs.get(path)?.label ?? '', ...numbers.map((own) => own[path] ?? '')]),
  ];
  return lines.map(csvLine).join('');
}
