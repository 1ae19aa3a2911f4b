import type { Along } from '@zygopod/core';

/** The axis of a strip: places on it from 0 to its length, and the moments that they stand for (s). */
export interface StripAxis {
  /** True if places are distances along a course, not times. */
  isDistance: boolean;
  length: number;
  /** Shortest window. */
  narrowest: number;
  placeAt(time: number): number;
  timeAt(place: number): number;
}

/** Shortest window of a time axis, s, and of a distance axis, as a fraction of the course. */
const SHORTEST = 0.25;
const NARROWEST = 1 / 60;

export const timeAxis = (length: number): StripAxis => ({
  isDistance: false,
  length,
  narrowest: SHORTEST,
  placeAt: (time) => time,
  timeAt: (place) => place,
});

/** The distance along a course of `length`, with the moments of a side's lap; without one all moments are at the start. */
export const distanceAxis = (along: Along | null, length: number): StripAxis => ({
  isDistance: true,
  length,
  narrowest: length * NARROWEST,
  placeAt: (time) => along?.distanceAt(time) ?? 0,
  timeAt: (place) => along?.timeAt(Math.min(Math.max(0, place), along.reached)) ?? 0,
});
