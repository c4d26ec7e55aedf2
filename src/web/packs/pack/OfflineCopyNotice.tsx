import type { PackRow, PackTypeAnswer } from '../../../contract';
import { CHEMISTRY } from '../../../core/chemistry';
import type { Instant } from '../../../core/measure';
import { cellsLabel } from '../../../core/pack';
import { capacity, dueWords, STEP_WORDS, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useOwnItems } from '../../app/outbox';
import { Button } from '../../kit/Button';
import { TagPlate } from '../../kit/TagPlate';
import { VerdictMark } from '../../kit/VerdictMark';
import { MayFlyMark } from '../../domain/MayFlyMark';

/** A pack whose records cannot be had now: its verdict as the register last told this device, for the hand in the field. */
export function OfflineCopyNotice({
  row,
  type,
  toldAt,
  retry,
}: {
  row: PackRow;
  type: PackTypeAnswer;
  /** When the list of packs came, by the register's clock. */
  toldAt: Instant;
  retry: () => void;
}) {
  const reader = useReader();
  const written = useOwnItems().some(
    ({ packId, incident }) =>
      packId === row.id || incident?.packRecords.some((named) => named.packId === row.id),
  );
  const { next } = row;
  return (
    <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <title>{`${row.tag} · Malle`}</title>
      <TagPlate
        tag={row.tag}
        under={`${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${capacity(type.capacityMah)}`}
      />
      <section aria-label="How it stands" className="grid content-start gap-2">
        <p className="flex flex-wrap items-center gap-x-5 gap-y-1">
          <VerdictMark verdict={row.verdict} charged={row.charged} large />
          {!written && (
            <span className="text-lg">
              <MayFlyMark mayFly={row.mayFly} charged={row.charged} percent={row.socPercent} />
            </span>
          )}
        </p>
        {written && (
          <p className="border-l-4 border-red bg-wash-red px-3 py-2 text-lg font-bold">
            Something written on this device about it waits to be sent, and is not counted here. Do not fly it
            before it is.
          </p>
        )}
        {next && (
          <p className="text-lg">
            <b>{STEP_WORDS[next.do]}</b>
            {next.dueAt !== null && `, ${dueWords(next.dueAt, reader)}`}
          </p>
        )}
        <p className="text-faint">
          As the register last told this device, {whenWords(toldAt, reader)}. What came since is not in it,
          and its records are not here.
        </p>
        <p>
          <Button onClick={retry}>Try again</Button>
        </p>
      </section>
    </div>
  );
}
