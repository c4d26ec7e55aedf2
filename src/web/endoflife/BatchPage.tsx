import { useState } from 'react';
import type { FormEvent } from 'react';
import { Link } from 'react-router';
import { v7 as newId } from 'uuid';
import type { PackRow, RegisterAnswer } from '../../contract';
import type { PackId } from '../../core/measure';
import { dayWords, plural } from '../../core/wording';
import { FailedRequest, request } from '../app/api';
import { currentTime, useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { useMay } from '../domain/Person';
import { say } from '../app/notices';
import { KEYS, queryClient, useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { Button } from '../kit/Button';
import { TextArea, Tick, withOrWithout } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Empty, Loading } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { VerdictMark } from '../kit/VerdictMark';

/** Several packs of a type or delivery retired for one reason, each of them decided by its own box. */
export default function BatchPage() {
  const rows = usePackRows();
  const register = useRegister();
  const mayDecide = useMay('record.decision');
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isPending || register.isPending) return <Loading what="the packs" />;
  if (!mayDecide) return <Empty title="The custodian or a deputy decides." />;
  return <Loaded rows={rows.data} register={register.data} />;
}

interface BatchDraft {
  readonly group: string;
  readonly chosen: readonly PackId[];
  readonly reason: string;
}

interface Group {
  readonly key: string;
  readonly name: string;
  readonly packs: readonly PackRow[];
}

function Loaded({ rows, register }: { rows: readonly PackRow[]; register: RegisterAnswer }) {
  const reader = useReader();
  const [draft, setDraft, clear] = useDraft<BatchDraft>('batch', { group: '', chosen: [], reason: '' });
  const [done, setDone] = useState<ReadonlyMap<PackId, string>>(new Map());
  const [running, setRunning] = useState<{ of: number; stop: () => void } | null>(null);
  const [asked, setAsked] = useState(false);
  const secondWanted = register.rules.rules.retirementNames === 2;
  const groups = groupsOf(rows, register, (at) => dayWords(at, reader));
  const group = groups.find(({ key }) => key === draft.group) ?? null;
  const chosen = group?.packs.filter(({ id }) => draft.chosen.includes(id)) ?? [];
  const retire = async (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (draft.reason.trim() === '' || chosen.length === 0) return;
    let stopped = false;
    setRunning({ of: chosen.length, stop: () => (stopped = true) });
    const results = new Map<PackId, string>();
    for (const { id, seq } of chosen) {
      if (stopped) break;
      results.set(id, await retireOne(id, seq, draft.reason, secondWanted));
      setDone(new Map(results));
    }
    setRunning(null);
    setAsked(false);
    const failed = [...results].filter(([, said]) => said !== RETIRED).map(([id]) => id);
    const retired = results.size - failed.length;
    if (retired > 0) say(`${plural(retired, 'pack')} retired.`);
    if (failed.length === 0 && !stopped) clear();
    else
      setDraft({
        ...draft,
        chosen: chosen.filter(({ id }) => !results.has(id) || failed.includes(id)).map(({ id }) => id),
      });
    await queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
  };
  return (
    <form onSubmit={(event) => void retire(event)} noValidate className="grid gap-4">
      <title>Retire several · Malle</title>
      <p className="text-sm">
        <Link to="/end-of-life" className="inline-block min-h-6 text-accent underline">
          Disposal
        </Link>
      </p>
      <h1>Retire several</h1>
      <div className="max-w-xl">
        <SelectField
          label="Type or delivery"
          value={draft.group}
          onChange={(value) => {
            setDone(new Map());
            setDraft({ ...draft, group: value, chosen: [] });
          }}
        >
          <SelectOption value="">choose</SelectOption>
          {groups.map(({ key, name, packs }) => (
            <SelectOption key={key} value={key}>
              {name}, {plural(packs.length, 'pack')}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      {group && (
        <>
          <ul className="border-t-2 border-ink">
            {group.packs.map((pack) => (
              <li key={pack.id} className="ruled">
                <div className="flex min-h-11 flex-wrap items-center gap-x-4 md:min-h-8">
                  <Tick
                    label={<span className="inline-block w-20 font-mono">{pack.tag}</span>}
                    checked={draft.chosen.includes(pack.id)}
                    onChange={(checked) =>
                      setDraft({ ...draft, chosen: withOrWithout(draft.chosen, pack.id, checked) })
                    }
                  />
                  <VerdictMark verdict={pack.verdict} />
                  <span className="text-sm text-faint">
                    {pack.receivedAt !== null && `received ${dayWords(pack.receivedAt, reader)}`}
                  </span>
                  {done.has(pack.id) && (
                    <b className={done.get(pack.id) === RETIRED ? 'text-leaf' : 'text-red'}>
                      {done.get(pack.id)}
                    </b>
                  )}
                </div>
              </li>
            ))}
          </ul>
          {asked && chosen.length === 0 && (
            <p role="alert" className="font-bold text-red">
              Choose the packs that are to go: each is decided by itself.
            </p>
          )}
          <div className="max-w-xl">
            <TextArea
              label="Reason for all of them"
              value={draft.reason}
              onChange={(event) => setDraft({ ...draft, reason: event.target.value })}
              error={asked && draft.reason.trim() === '' ? 'The reason is missing.' : undefined}
              hint={secondWanted ? 'Each waits for a second name afterwards.' : undefined}
            />
          </div>
          {running && <ProgressBar label="Retiring" done={done.size} of={running.of} unit="packs" />}
          <div className="flex gap-3">
            <Button type="submit" weight="main" disabled={running !== null}>
              Retire {chosen.length > 0 ? plural(chosen.length, 'pack') : ''}
            </Button>
            {running && <Button onClick={running.stop}>Stop after this one</Button>}
          </div>
        </>
      )}
    </form>
  );
}

const RETIRED = 'retired';

/** One pack's own decision, made on what the list showed of it. */
async function retireOne(
  packId: PackId,
  seq: number,
  reason: string,
  secondWanted: boolean,
): Promise<string> {
  const payload = { basedOnSeq: seq, reason, what: { to: 'retire', because: [], secondWanted } };
  const record = { id: newId(), at: currentTime(), kind: 'decision', payload, supersedes: null };
  try {
    await request('POST', '/records', { packId, records: [record] });
    return RETIRED;
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    return error.says;
  }
}

/** Every type, and every delivery of it where several came together. */
function groupsOf(
  rows: readonly PackRow[],
  { types }: RegisterAnswer,
  day: (at: number) => string,
): readonly Group[] {
  const serving = rows.filter(({ life }) => life === 'in-service');
  return types.flatMap(({ id, name }) => {
    const packs = serving.filter(({ typeId }) => typeId === id);
    if (packs.length === 0) return [];
    const deliveries = new Map<string, PackRow[]>();
    for (const pack of packs) {
      const key = pack.deliveryId ?? (pack.receivedAt === null ? null : day(pack.receivedAt));
      if (key !== null) deliveries.set(key, [...(deliveries.get(key) ?? []), pack]);
    }
    const several = [...deliveries].filter(([, of]) => of.length > 1 && of.length < packs.length);
    return [
      { key: id, name, packs },
      ...several.map(([key, of]) => ({
        key: `${id} ${key}`,
        name: `${name}, delivery of ${of[0]!.receivedAt === null ? '?' : day(of[0]!.receivedAt)}`,
        packs: of,
      })),
    ];
  });
}
