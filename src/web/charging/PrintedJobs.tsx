import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import type { PlannedJob } from '../../core/charging';
import { JOB_WORDS, SETTING_WORDS, clockWords, dayWords, settingValue } from '../../core/wording';
import { stationName } from '../domain/bench';
import { useReader } from '../app/clock';
import type { Bar } from './Timetable';

/** The plan as a list in the order of the evening: for paper, and for a phone on which a timetable is too wide. */
export function PrintedJobs({
  bars,
  jobs,
  register,
  charging,
}: {
  bars: readonly Bar[];
  jobs: readonly (PlannedJob | JobAnswer)[];
  register: RegisterAnswer;
  charging: ChargingAnswer;
}) {
  const reader = useReader();
  const ordered = [...bars].filter(({ state }) => state !== 'ended').sort((a, b) => a.start - b.start);
  if (ordered.length === 0) return null;
  return (
    <section className="mt-6" aria-label="In the order of the evening">
      <h2 className="border-b-2 border-ink pb-1">In the order of the evening</h2>
      <ol>
        {ordered.map((bar, i) => {
          const day = dayWords(bar.start, reader);
          const isFirst = i === 0 || dayWords(ordered[i - 1]!.start, reader) !== day;
          const job = jobs.find(
            (one) =>
              one.start === bar.start &&
              one.equipmentId === bar.equipmentId &&
              one.channel === bar.channel &&
              one.do === bar.do,
          );
          const board = register.equipment.find(({ id }) => id === job?.boardId);
          return (
            <li key={bar.key} className="ruled flex flex-wrap items-baseline gap-x-4 py-1">
              {isFirst && <b className="w-full pt-1 text-sm text-faint">{day}</b>}
              <span className="w-28 font-mono">
                {clockWords(bar.start, reader)}–{clockWords(bar.end, reader)}
              </span>
              <span className="w-44">{stationName(register.equipment, bar.equipmentId, bar.channel)}</span>
              <b className="font-mono">{bar.tags.join(' ')}</b>
              <span>{JOB_WORDS[bar.do]}</span>
              {board && <span>on {board.name}</span>}
              {job && (
                <span className="text-faint">
                  {(['chemistry', 'cells', 'topV', 'amps'] as const)
                    .map(
                      (field) =>
                        `${SETTING_WORDS[field].toLowerCase()} ${settingValue(field, field === 'topV' ? job.setting.topMv : job.setting[field])}`,
                    )
                    .join(', ')}
                </span>
              )}
              {bar.state === 'running' && <b>running</b>}
            </li>
          );
        })}
      </ol>
      {charging.attended.length > 0 && (
        <p className="hidden text-sm print:block">Printed from the register’s plan.</p>
      )}
    </section>
  );
}
