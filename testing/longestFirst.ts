import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** The slowest files, by the ends of their paths: started last, one of them would run alone. */
const longest = [
  'code/src/proof/motion.test.ts',
  'cli/src/commands/handOff.test.ts',
  'code/src/files.test.ts',
  'cli/src/commands/anyInput.test.ts',
  'code/src/proof/walls.test.ts',
  'cli/src/commands/checks.test.ts',
  'core/src/tuning/reference.test.ts',
  'cli/src/siege/siege.integration.ts',
  'cli/src/files/thousandEdits.integration.ts',
  'e2e/exchange.spec.ts',
  'e2e/typedWork.spec.ts',
  'e2e/bench.spec.ts',
  'e2e/shelf.spec.ts',
  'e2e/drills.spec.ts',
];

/** Begins with the files that take longest. */
export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = longest.findIndex((path) => moduleId.endsWith(path));
      return at < 0 ? longest.length : at;
    };
    return (await super.sort(files)).sort((a, b) => place(a) - place(b));
  }
}
