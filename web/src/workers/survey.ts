import { bucketWalls, type Ground, type Parameters, type Survey, surveyGround, type WallBuckets } from '@zygopod/core';

/** What a survey is asked for. */
export interface SurveyOrder {
  number: number;
  ground: Ground;
  parameters: Parameters;
}

/** What comes back: first the walls, sorted by place, so that one can drive on; then the survey, or why there is none. */
export type SurveyAnswer = { number: number } & (
  | { kind: 'walls'; walls: WallBuckets }
  | { kind: 'survey'; survey: Survey; milliseconds: number }
  | { kind: 'trouble'; words: string }
);

/** Sorts the walls of a ground and surveys it, away from the page. */
self.addEventListener('message', ({ data }: MessageEvent<SurveyOrder>) => {
  const begun = performance.now();
  const { number, ground, parameters } = data;
  const tell = (answer: SurveyAnswer) => self.postMessage(answer);
  try {
    const walls = bucketWalls(ground, parameters.contact.seams);
    tell({ number, kind: 'walls', walls });
    tell({ number, kind: 'survey', survey: surveyGround(ground, parameters, walls), milliseconds: performance.now() - begun });
  } catch (error) {
    tell({ number, kind: 'trouble', words: error instanceof Error ? error.message : String(error) });
  }
});
