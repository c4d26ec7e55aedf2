import clsx from 'clsx';
import { Lock } from 'lucide-react';
import { Fragment } from 'react';
import type { ChargingAnswer, EquipmentAnswer, RegisterAnswer } from '../../contract';
import type { JobKind } from '../../core/charging';
import type { Instant } from '../../core/measure';
import { JOB_WORDS, clockWords, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Scroll } from '../kit/Scroll';
import { attendedSpans, hoursIn, percentOf } from './timeAxis';
import type { AttendedSpan } from './timeAxis';
import { JOB_SIGNS, personName } from './words';

/** A job as a bar. */
export interface Bar {
  readonly key: string;
  readonly do: JobKind;
  readonly tags: readonly string[];
  readonly equipmentId: string;
  readonly channel: string | null;
  readonly start: Instant;
  readonly end: Instant;
  readonly state: 'planned' | 'running' | 'ended';
  readonly locked: boolean;
}

const LOOK: Readonly<Record<JobKind, string>> = {
  charge: 'border-accent bg-band',
  raise: 'border-leaf bg-sheet',
  lower: 'border-rule bg-used',
  discharge: 'border-plum bg-sheet',
};

/** Channels over the hours in which somebody is there. Time nobody attends is not drawn: nothing can stand in it. */
export function Timetable({
  bars,
  charging,
  register,
  chosen,
  onChoose,
}: {
  bars: readonly Bar[];
  charging: ChargingAnswer;
  register: RegisterAnswer;
  chosen: string | null;
  onChoose: (key: string) => void;
}) {
  const reader = useReader();
  const earliest = Math.min(reader.now, ...bars.map(({ start }) => start));
  const spans = attendedSpans(charging.attended, earliest).map((one) => ({
    ...one,
    from: Math.max(one.from, earliest),
  }));
  const rows = stations(register.equipment).map((charger) => withoutIdle(charger, bars));
  const minutes = (one: AttendedSpan) => (one.to - one.from) / 60_000;
  const columns = `8.5rem ${spans.map((one) => `minmax(16rem, ${Math.round(minutes(one))}fr)`).join(' ')}`;
  if (spans.length === 0 || rows.length === 0) return null;
  return (
    <Scroll label="Timetable" className="border-y-2 border-ink">
      <div className="grid min-w-max gap-x-3 md:min-w-0" style={{ gridTemplateColumns: columns }}>
        <span />
        {spans.map((one) => (
          <Head key={one.from} span={one} register={register} />
        ))}
        {rows.map(({ equipmentId, name, channels, idle }) => (
          <Fragment key={equipmentId}>
            {channels.map((channel, i) => (
              <Row
                key={channel}
                name={i === 0 ? name : null}
                channel={channel}
                spans={spans}
                bars={bars.filter((bar) => bar.equipmentId === equipmentId && bar.channel === channel)}
                chosen={chosen}
                onChoose={onChoose}
                now={reader.now}
              />
            ))}
            {idle !== null && (
              <p
                className={clsx(
                  'col-span-full py-1 text-sm text-faint',
                  channels.length === 0 && 'border-t border-rule',
                )}
              >
                {channels.length === 0 && <b className="mr-2 text-ink">{name}</b>}
                {idle}
              </p>
            )}
          </Fragment>
        ))}
      </div>
      <p className="sr-only">
        {bars
          .map((bar) => `${JOB_WORDS[bar.do]} ${bar.tags.join(', ')} ${whenWords(bar.start, reader)}`)
          .join('; ')}
      </p>
    </Scroll>
  );
}

interface Output {
  readonly equipmentId: string;
  readonly name: string;
  /** Null stands for the one output of a load. */
  readonly channels: readonly (string | null)[];
  readonly broken: readonly (string | null)[];
}

function stations(equipment: readonly EquipmentAnswer[]): Output[] {
  return equipment.flatMap(({ id, name, inUse, facts }): Output[] => {
    if (!inUse) return [];
    if (facts.kind === 'load') return [{ equipmentId: id, name, channels: [null], broken: [] }];
    if (facts.kind !== 'charger') return [];
    const broken = facts.channels.filter(({ outOfOrder }) => outOfOrder).map(({ key }) => key);
    return [{ equipmentId: id, name, channels: facts.channels.map(({ key }) => key), broken }];
  });
}

/** Channels with nothing on them take one line together; a plan is read by its bars. */
function withoutIdle(output: Output, bars: readonly Bar[]): Output & { readonly idle: string | null } {
  const used = output.channels.filter((channel) =>
    bars.some((bar) => bar.equipmentId === output.equipmentId && bar.channel === channel),
  );
  const free = output.channels.filter(
    (channel) => !used.includes(channel) && !output.broken.includes(channel),
  );
  const words = [
    free.length > 0 && (free[0] === null ? 'nothing to do' : `channel ${free.join(', ')} free`),
    output.broken.length > 0 && `channel ${output.broken.join(', ')} out of order`,
  ].filter(Boolean);
  return { ...output, channels: used, idle: words.length > 0 ? words.join('; ') : null };
}

function Head({ span, register }: { span: AttendedSpan; register: RegisterAnswer }) {
  const reader = useReader();
  return (
    <div className="pt-1">
      <p className="truncate text-sm">
        <b>{whenWords(span.from, reader)}</b> to {clockWords(span.to, reader)}{' '}
        <span className="text-faint">
          {span.people.map((id) => personName(register, id)).join(', then ')}
        </span>
      </p>
      <div className="relative h-5 text-xs text-faint" aria-hidden="true">
        {hoursIn(span).map((at) => (
          <span
            key={at}
            className="absolute bottom-0 border-l border-rule pl-1"
            style={{ left: `${percentOf(span, at)}%` }}
          >
            {percentOf(span, at) < 94 && clockWords(at, reader)}
          </span>
        ))}
      </div>
    </div>
  );
}

function Row({
  name,
  channel,
  spans,
  bars,
  chosen,
  onChoose,
  now,
}: {
  /** The charger's, before its first channel. */
  name: string | null;
  channel: string | null;
  spans: readonly AttendedSpan[];
  bars: readonly Bar[];
  chosen: string | null;
  onChoose: (key: string) => void;
  now: Instant;
}) {
  const edge = name === null ? 'border-t border-line' : 'border-t border-rule';
  return (
    <>
      <div
        className={clsx(
          'sticky left-0 z-10 bg-ground py-1 pr-1 text-sm leading-tight',
          name !== null && edge,
        )}
      >
        {name !== null && <b className="block truncate">{name}</b>}
        {channel !== null && <span className="text-faint">channel {channel}</span>}
      </div>
      {spans.map((span) => (
        <div key={span.from} className={clsx('relative min-h-11 bg-sheet', edge)}>
          {hoursIn(span).map((at) => (
            <span
              key={at}
              className="absolute inset-y-0 w-px bg-line"
              style={{ left: `${percentOf(span, at)}%` }}
            />
          ))}
          {bars
            .filter(({ start, end }) => start < span.to && end > span.from)
            .map((bar) => (
              <BarButton
                key={bar.key}
                bar={bar}
                span={span}
                chosen={bar.key === chosen}
                onChoose={onChoose}
              />
            ))}
          {now > span.from && now < span.to && (
            <span
              className="pointer-events-none absolute inset-y-0 w-0.5 bg-ink"
              style={{ left: `${percentOf(span, now)}%` }}
            />
          )}
        </div>
      ))}
    </>
  );
}

function BarButton({
  bar,
  span,
  chosen,
  onChoose,
}: {
  bar: Bar;
  span: AttendedSpan;
  chosen: boolean;
  onChoose: (key: string) => void;
}) {
  const reader = useReader();
  const left = Math.max(0, percentOf(span, bar.start));
  const right = Math.min(100, percentOf(span, bar.end));
  const when = `${clockWords(bar.start, reader)} to ${clockWords(bar.end, reader)}`;
  return (
    <button
      type="button"
      data-printed
      aria-pressed={chosen}
      aria-label={`${JOB_WORDS[bar.do]}: ${bar.tags.join(', ')}, ${when}`}
      title={`${bar.tags.join(', ')}: ${when}`}
      onClick={() => onChoose(bar.key)}
      className={clsx(
        'absolute inset-y-1 flex items-center gap-1 overflow-hidden border-[1.5px] px-1 text-left font-mono text-sm leading-none whitespace-nowrap',
        LOOK[bar.do],
        bar.state === 'ended' && 'opacity-55',
        bar.state === 'running' && 'border-2 border-ink font-bold',
        chosen && 'outline-3 outline-accent',
      )}
      style={{ left: `${left}%`, width: `${Math.max(0.6, right - left)}%` }}
    >
      <span aria-hidden="true">{JOB_SIGNS[bar.do]}</span>
      {bar.locked && <Lock size={12} aria-hidden="true" className="shrink-0" />}
      <span className="truncate">
        {bar.tags.length > 1 ? `${bar.tags[0]} +${bar.tags.length - 1}` : bar.tags[0]}
      </span>
    </button>
  );
}
