import { parentPort, workerData } from 'node:worker_threads';
import { Sweep, type SweepDefinition } from '@zygopod/core';

// Measures cells of a sweep, as many as each message names.
const sweep = new Sweep(workerData as SweepDefinition);
parentPort?.on('message', (cells: number[]) => parentPort?.postMessage(sweep.measure(cells)));
