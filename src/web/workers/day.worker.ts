import { packsOnBench } from '../../core/fleet';
import type { BenchDayAnswer, DayBench, DayType, FlownDay } from '../../core/fleet';

/** How many packs a day takes on the bench as it stands. A newer question is asked of a new worker. */
export interface DayQuestion {
  readonly day: FlownDay;
  readonly type: DayType;
  readonly bench: DayBench;
}

self.onmessage = ({ data: { day, type, bench } }: MessageEvent<DayQuestion>) => {
  const answer: BenchDayAnswer = packsOnBench(day, type, bench);
  self.postMessage(answer);
};
