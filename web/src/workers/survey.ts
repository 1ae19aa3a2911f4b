import { bucketWalls, type Ground, type Parameters, type Survey, surveyGround, type WallBuckets } from '@zygopod/core';

/** What a survey is asked for, and what comes back; `walls` are the ground's, sorted by place. */
export interface SurveyOrder {
  number: number;
  ground: Ground;
  parameters: Parameters;
}
export type SurveyAnswer = { number: number; walls: WallBuckets; milliseconds: number } & (
  | { survey: Survey; trouble: null }
  | { survey: null; trouble: string }
);

/** Sorts the walls of a ground and surveys it, away from the page. */
self.addEventListener('message', ({ data }: MessageEvent<SurveyOrder>) => {
  const begun = performance.now();
  const { number, ground, parameters } = data;
  const walls = bucketWalls(ground);
  const answer = (): SurveyAnswer => {
    const spent = () => performance.now() - begun;
    try {
      return { number, walls, survey: surveyGround(ground, parameters, walls), trouble: null, milliseconds: spent() };
    } catch (error) {
      return { number, walls, survey: null, trouble: error instanceof Error ? error.message : String(error), milliseconds: spent() };
    }
  };
  self.postMessage(answer());
});
