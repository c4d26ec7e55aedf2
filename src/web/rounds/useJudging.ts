import { useMemo } from 'react';
import type { InstrumentAnswer } from '../../contract';
import type { HouseRules } from '../../core/rules';
import type { PackId } from '../../core/measure';
import type { Reader } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import type { KnownPack } from '../domain/histories';
import { useOwnItems } from '../app/outbox';
import type { PackView } from '../domain/packView';
import { usePerson } from '../domain/Person';
import { useRegister } from '../app/queries';
import { LAST_INSTRUMENT } from '../domain/typedReading';
import { judgeRow } from './judge';
import type { RowBody } from './rowDraft';

interface Judging {
  readonly rules: HouseRules;
  readonly reader: Reader;
  /** The meter this device was last used with. */
  readonly instrument: InstrumentAnswer | null;
  /** What stands, whatever is being typed. */
  readonly before: PackView;
  /** What is said with these records as well. */
  readonly judge: (typed: readonly RowBody[]) => PackView;
  readonly nameOf: (person: string | null) => string;
}

/** The meter this device was last used with. */
export function useLastInstrument(): InstrumentAnswer | null {
  const [last] = useDraft<string>(LAST_INSTRUMENT, '');
  return useRegister().data?.instruments.find(({ name }) => name === last) ?? null;
}

const NOTHING: readonly RowBody[] = [];

/** What a row of a round needs to say what Malle thinks of it. */
export function useJudging(packId: PackId, known: KnownPack): Judging {
  const reader = useReader();
  const { now } = reader;
  const by = usePerson().id;
  const register = useRegister().data!;
  const { rules } = register.rules;
  const outgoing = useOwnItems();
  const instrument = useLastInstrument();
  const before = useMemo(
    () => judgeRow(packId, known, outgoing, NOTHING, by, rules, now),
    [packId, known, outgoing, by, rules, now],
  );
  return {
    rules,
    reader,
    instrument,
    before,
    // The page's clock moves in steps; what is typed is of this instant, after the round began.
    judge: (typed) =>
      typed.length === 0 ? before : judgeRow(packId, known, outgoing, typed, by, rules, currentTime()),
    nameOf: (person) => register.people.find(({ id }) => id === person)?.name ?? 'Somebody',
  };
}
