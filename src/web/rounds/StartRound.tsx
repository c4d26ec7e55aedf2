import { useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type { PackRow, RegisterAnswer } from '../../contract';
import { ROUND_KINDS, ROUND_OCCASION } from '../../core/rounds';
import type { RoundKind } from '../../core/rounds';
import { plural, ROUND_WORDS } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { minuteAt } from '../app/days';
import { useReader } from '../app/clock';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { CheckField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Notice } from '../kit/Message';
import { gathered, roundTitle } from './gathering';
import type { From } from './gathering';
import { MomentField } from '../domain/moments/MomentField';
import { Scroll } from '../kit/Scroll';

/** Beginning a round: what for, from where, and the packs it gathers by itself. */
export function StartRound({ packs, register }: { packs: readonly PackRow[]; register: RegisterAnswer }) {
  const reader = useReader();
  const navigate = useNavigate();
  const [address] = useSearchParams();
  const asked = ROUND_KINDS.find((kind) => kind === address.get('kind'));
  const [kind, setKind] = useState<RoundKind>(asked ?? 'put-away');
  const [from, setFrom] = useState<From>('anywhere');
  const [checklist, setChecklist] = useState(true);
  const [flies, setFlies] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // Kept until it is begun, so that pressing twice begins one round.
  const id = useRef(newId());
  const taken = gathered(kind, from, packs, register.places, reader.now);
  const occasion = ROUND_OCCASION[kind];
  const box = register.places.find((place) => place.id === from);

  const begin = async (event: FormEvent) => {
    event.preventDefault();
    const fliesAt = minuteAt(flies);
    // The field itself says what cannot be understood of it.
    if (Number.isNaN(fliesAt)) return;
    setBusy(true);
    setProblem(null);
    try {
      const round = await ask('POST /rounds', {
        body: {
          id: id.current,
          kind,
          title: `${roundTitle(kind, reader.now, reader.zone)}${box ? `, ${box.name}` : ''}`.slice(0, 80),
          checklist: occasion !== null && checklist,
          placeId: box?.id ?? null,
          fliesAt,
          packIds: taken.map((pack) => pack.id),
        },
      });
      queryClient.setQueryData(KEYS.round(round.id), round);
      await navigate(`/rounds/${round.id}`);
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.fields.map(({ message }) => message).join(' ') || error.message);
    } finally {
      setBusy(false);
    }
  };

  return (
    <form onSubmit={(event) => void begin(event)} className="grid gap-3" aria-label="Begin a round">
      <h2 className="border-b-2 border-ink pb-1">Begin a round</h2>
      <SelectField
        label="For"
        value={kind}
        onChange={(value) => setKind(value as RoundKind)}
        hint={
          from === 'anywhere'
            ? `Gathers ${ROUND_WORDS[kind].gathers}.`
            : 'Gathers everything that lies there.'
        }
      >
        {ROUND_KINDS.map((one) => (
          <SelectOption key={one} value={one}>
            {ROUND_WORDS[one].name}
          </SelectOption>
        ))}
      </SelectField>
      <SelectField label="Packs from" value={from} onChange={(value) => setFrom(value as From)}>
        <SelectOption value="anywhere">wherever they are</SelectOption>
        {register.places.map((place) => (
          <SelectOption key={place.id} value={place.id}>
            {place.name}
          </SelectOption>
        ))}
      </SelectField>
      {kind === 'put-away' && (
        <MomentField
          label="They fly next"
          wanted="minute"
          lean="ahead"
          value={flies}
          onChange={setFlies}
          hint="Left empty: every charged pack goes to storage."
        />
      )}
      {occasion && (
        <CheckField
          label="Look every pack over, too"
          hint={`By the checklist of this occasion: ${plural(register.rules.rules.checklists[occasion].length, 'item')}, all in order unless a key is pressed.`}
          checked={checklist}
          onChange={setChecklist}
        />
      )}
      {problem && <Notice title={problem} />}
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" weight="main" disabled={busy}>
          Begin with {plural(taken.length, 'pack')}
        </Button>
        {taken.length === 0 && <span className="text-sm text-faint">Others come in by scanning.</span>}
      </div>
      {taken.length > 0 && (
        <Scroll label="Packs gathered" className="max-h-40">
          <p className="font-mono text-sm text-faint">{taken.map(({ tag }) => tag).join(' ')}</p>
        </Scroll>
      )}
    </form>
  );
}
