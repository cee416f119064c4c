import { parentPort, workerData } from 'node:worker_threads';
import { sortAndPack, type AddressedRows, type PeriodStart } from '../../core/facts/sortAndPack';
import { UnsettledDates } from '../../core/intake/rowReader';
import { intoBackground } from '../priority';
import { BlockReader, type ReadingPlan } from './rows';
import type { Block } from './text';

/** What a reader's thread is asked: to read a block, or to lay out rows that were read. */
export type ThreadTask =
  { readonly read: Block } | { readonly sortAndPack: AddressedRows; readonly period: PeriodStart };

intoBackground();
const reader = new BlockReader(workerData as ReadingPlan);

parentPort?.on('message', (task: ThreadTask) => {
  try {
    if ('read' in task) {
      const read = reader.read(task.read);
      parentPort?.postMessage(read, [read.units]);
    } else {
      const laid = sortAndPack(task.sortAndPack, task.period);
      parentPort?.postMessage(
        laid,
        laid.map(({ bytes }) => bytes.buffer as ArrayBuffer),
      );
    }
  } catch (error) {
    if (!(error instanceof UnsettledDates)) throw error;
    parentPort?.postMessage('unsettled');
  }
});
