import { bucketWalls, type Ground, type Parameters, type SurveyPart, surveyInParts, type WallBuckets } from '@zygopod/core';

/** What a survey is asked for. */
export interface SurveyOrder {
  number: number;
  ground: Ground;
  parameters: Parameters;
}

/** What comes back: first the walls, sorted by place, so that one can drive on; then the survey, part by part, or why there is none. */
export type SurveyAnswer = { number: number } & (
  | { kind: 'walls'; walls: WallBuckets }
  | { kind: 'survey'; survey: SurveyPart; isWhole: boolean; milliseconds: number }
  | { kind: 'trouble'; words: string }
);

/** Parts of a survey that are ready sooner (ms) wait for the whole, so that nothing blinks. */
const PATIENCE = 150;

/** Sorts the walls of a ground and surveys it, away from the page. */
self.addEventListener('message', ({ data }: MessageEvent<SurveyOrder>) => {
  const begun = performance.now();
  const { number, ground, parameters } = data;
  const tell = (answer: SurveyAnswer) => self.postMessage(answer);
  try {
    const walls = bucketWalls(ground, parameters.contact.seams);
    tell({ number, kind: 'walls', walls });
    const parts = surveyInParts(ground, parameters, walls);
    for (let isWhole = false; !isWhole; ) {
      const { done = false, value: survey } = parts.next();
      isWhole = done;
      const milliseconds = performance.now() - begun;
      if (isWhole || milliseconds > PATIENCE) tell({ number, kind: 'survey', survey, isWhole, milliseconds });
    }
  } catch (error) {
    tell({ number, kind: 'trouble', words: error instanceof Error ? error.message : String(error) });
  }
});
