import type { ChildProcess } from 'node:child_process';

export interface RunningDatabase {
  readonly url: string;
  readonly setupUrl: string;
  readonly socket: string;
  readonly process: ChildProcess;
  readonly stop: (milliseconds?: number) => Promise<void>;
}

export function startMariaDb(folder: string): Promise<RunningDatabase>;
