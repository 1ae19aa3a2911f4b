import type { Operation } from '../operation.ts';
import { changeOperations } from './changes.ts';
import { codeOperations } from './code.ts';
import { documentOperations } from './documents.ts';
import { draftOperations } from './draft.ts';
import { fitOperations } from './fits.ts';
import { handOffOperations } from './handOffs.ts';
import { lapOperations } from './laps.ts';
import { linkOperations } from './links.ts';
import { projectOperations } from './projects.ts';
import { reportOperations } from './reports.ts';
import { revisionOperations } from './revisions.ts';
import { descriptionOf, serviceOperations } from './service.ts';
import { sourceOperations } from './sources.ts';
import { sweepResultOperations } from './sweepResults.ts';
import { sweepRunOperations } from './sweepRuns.ts';
import { trialOperations } from './trials.ts';

/** All that the API does. */
export const operations: readonly Operation[] = [
  ...serviceOperations,
  descriptionOf(() => operations),
  ...documentOperations,
  ...revisionOperations,
  ...draftOperations,
  ...trialOperations,
  ...reportOperations,
  ...handOffOperations,
  ...sourceOperations,
  ...codeOperations,
  ...lapOperations,
  ...fitOperations,
  ...linkOperations,
  ...sweepRunOperations,
  ...sweepResultOperations,
  ...projectOperations,
  ...changeOperations,
];
