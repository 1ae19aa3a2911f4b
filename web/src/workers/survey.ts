import { bucketWalls, type Ground, type Parameters, type SurveyPart, surveyInParts, type WallBuckets } from '@zygopod/core';
import { expose } from 'comlink';

/** Progress of a survey: first the sorted walls, so that driving can continue; then the survey, part by part. */
export interface SurveyListener {
  walls(walls: WallBuckets): void;
  part(survey: SurveyPart, isWhole: boolean, milliseconds: number): void;
}

/** Parts of a survey that are ready sooner (ms) wait for the whole, so that nothing blinks. */
const PATIENCE = 150;

/** Sorts the walls of a ground and surveys it, away from the page. */
const api = {
  survey(ground: Ground, parameters: Parameters, listener: SurveyListener): void {
    const begun = performance.now();
    const walls = bucketWalls(ground, parameters.contact.seams);
    listener.walls(walls);
    const parts = surveyInParts(ground, parameters, walls);
    for (let isWhole = false; !isWhole; ) {
      const { done = false, value: survey } = parts.next();
      isWhole = done;
      const milliseconds = performance.now() - begun;
      if (isWhole || milliseconds > PATIENCE) listener.part(survey, isWhole, milliseconds);
    }
  },
};
export type SurveyApi = typeof api;

expose(api);
