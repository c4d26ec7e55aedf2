import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type { DeviceAnswer, NewDeviceAnswer, RegisterAnswer } from '../../contract';
import { patternOf, pickFirst } from '../../core/instruments';
import type { Picked } from '../../core/instruments';
import { patternFaultSentence, whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { useDevices } from '../app/devices';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { useMay } from '../domain/Person';
import { Button, ButtonLink } from '../kit/Button';
import { TextArea, TextField } from '../kit/fields';
import { FormSelect } from '../kit/formFields';
import { Empty, Notice } from '../kit/Message';
import { NewSecret } from '../kit/NewSecret';
import { SelectOption } from '../kit/Select';

/** Instruments that speak for themselves: what each is, whether it is there, its key, and what is picked out of its lines. */
export function DevicesPage({ register }: { register: RegisterAnswer }) {
  const { id } = useParams();
  const devices = useDevices();
  const mayEdit = useMay('device.edit');
  const [made, setMade] = useState<NewDeviceAnswer | null>(null);
  const chosen = devices.find((one) => one.id === id) ?? null;
  const adding = id === 'new' && mayEdit;
  return (
    <div className="grid gap-8 lg:grid-cols-2">
      <section aria-label="Devices" className={chosen || adding ? 'max-lg:hidden' : ''}>
        <p className="mb-3 max-w-prose text-faint">
          A meter, charger or reader of smart packs that is connected says its figures by itself. What it
          reads waits in the open field until somebody presses Enter; it signs for nobody.
        </p>
        <ul className="border-t-2 border-ink">
          {devices.map((device) => (
            <DeviceLine key={device.id} device={device} isChosen={device.id === id} />
          ))}
        </ul>
        {devices.length === 0 && <Empty title="No instrument speaks for itself yet." />}
        {mayEdit && (
          <ButtonLink to="/settings/devices/new" weight="main" className="mt-4">
            Add a device
          </ButtonLink>
        )}
      </section>
      <div>
        {made && (adding || made.device.id === id) && <NewDeviceKey made={made} />}
        {adding && <NewDeviceForm key={made?.device.id} register={register} onMade={setMade} />}
        {chosen && <OneDevice key={chosen.id} device={chosen} mayEdit={mayEdit} onKey={setMade} />}
      </div>
    </div>
  );
}

const KIND_WORDS = {
  meter: 'a meter',
  charger: 'a charger',
  'memory-reader': 'a reader of smart packs',
} as const;

function DeviceLine({ device, isChosen }: { device: DeviceAnswer; isChosen: boolean }) {
  return (
    <li className="ruled">
      <Link
        to={`/settings/devices/${device.id}`}
        aria-current={isChosen ? 'true' : undefined}
        className="flex min-h-11 flex-wrap items-baseline gap-x-4 px-1 py-2 hover:bg-press aria-[current=true]:bg-press"
      >
        <b>{device.name}</b>
        <span className="text-sm text-faint">{KIND_WORDS[device.kind]}</span>
        <DeviceState device={device} />
      </Link>
    </li>
  );
}

function DeviceState({ device }: { device: DeviceAnswer }) {
  const reader = useReader();
  if (device.endedAt !== null)
    return <span className="text-sm text-faint">ended {whenWords(device.endedAt, reader)}</span>;
  if (device.isOpen) return <span className="text-sm font-bold text-leaf">connected</span>;
  return (
    <span className="text-sm text-faint">
      {!device.hasKey
        ? 'waits for a new key'
        : device.seenAt === null
          ? 'never connected'
          : `not connected, last ${whenWords(device.seenAt, reader)}`}
    </span>
  );
}

/** The key of a device, and how the bridge is started with it. */
function NewDeviceKey({ made }: { made: NewDeviceAnswer }) {
  const address = `${window.location.origin.replace(/^http/, 'ws')}/api/instruments`;
  return (
    <NewSecret of={made.device.name} secret={made.secret}>
      <p className="text-sm text-faint">
        To read a device that prints lines on a serial port or into a file:
      </p>
      <pre className="overflow-x-auto font-mono text-sm" tabIndex={0}>
        {`npm run bridge -- --from /dev/ttyUSB0 --to ${address}`}
      </pre>
      <p className="mt-1 text-sm text-faint">
        The bridge asks for the key, or takes it from the variable MALLE_DEVICE_KEY.
      </p>
    </NewSecret>
  );
}

interface NewValues {
  readonly name: string;
  readonly kind: DeviceAnswer['kind'];
  readonly instrumentId: string;
  readonly equipmentId: string;
}

function NewDeviceForm({
  register,
  onMade,
}: {
  register: RegisterAnswer;
  onMade: (made: NewDeviceAnswer) => void;
}) {
  const form = useServerForm<NewValues>(
    'device',
    { name: '', kind: 'meter', instrumentId: '', equipmentId: '' },
    async ({ name, kind, instrumentId, equipmentId }) => {
      const made = await ask('POST /devices', {
        body: {
          id: newId(),
          name,
          kind,
          instrumentId: kind === 'meter' ? instrumentId || null : null,
          equipmentId: kind === 'charger' ? equipmentId || null : null,
          patterns: [],
        },
      });
      onMade(made);
      await queryClient.invalidateQueries({ queryKey: KEYS.devices });
    },
  );
  const { errors, isSubmitting } = form.formState;
  const kind = useWatch({ control: form.control, name: 'kind' });
  const chargers = register.equipment.filter(({ facts }) => facts.kind === 'charger');
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid max-w-md gap-4">
      <h2>A new device</h2>
      {form.problem && <Notice title={form.problem} />}
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <FormSelect label="It is" control={form.control} name="kind">
        <SelectOption value="meter">a meter</SelectOption>
        <SelectOption value="charger">a charger</SelectOption>
        <SelectOption value="memory-reader">a reader of smart packs</SelectOption>
      </FormSelect>
      {kind === 'meter' && (
        <FormSelect label="Which of your meters" control={form.control} name="instrumentId">
          <SelectOption value="">choose</SelectOption>
          {register.instruments.map(({ id, name, errorMv }) => (
            <SelectOption key={id} value={id}>
              {name} (± {errorMv} mV)
            </SelectOption>
          ))}
        </FormSelect>
      )}
      {kind === 'charger' && (
        <FormSelect label="Which charger of the bench" control={form.control} name="equipmentId">
          <SelectOption value="">choose</SelectOption>
          {chargers.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
      )}
      <div>
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Add it and make its key
        </Button>
      </div>
    </form>
  );
}

function OneDevice({
  device,
  mayEdit,
  onKey,
}: {
  device: DeviceAnswer;
  mayEdit: boolean;
  onKey: (made: NewDeviceAnswer) => void;
}) {
  const [ending, setEnding] = useState(false);
  const renew = async () => {
    onKey(await ask('POST /devices/:id/key', { params: { id: device.id } }));
    await queryClient.invalidateQueries({ queryKey: KEYS.devices });
  };
  const end = async () => {
    await ask('DELETE /devices/:id', { params: { id: device.id } });
    say(`${device.name} may no longer speak.`);
    await queryClient.invalidateQueries({ queryKey: KEYS.devices });
  };
  return (
    <section aria-label={device.name}>
      <h2 className="border-b-2 border-ink pb-1">{device.name}</h2>
      <p className="py-2">
        <DeviceState device={device} />
        {device.software && <span className="text-sm text-faint"> · {device.software}</span>}
      </p>
      {device.problem && (
        <Notice title="Its last line that was not taken:">
          <p>{device.problem}</p>
        </Notice>
      )}
      {device.meter && (
        <p className="font-mono text-lg font-bold">
          {(device.meter.cellsMv ?? [device.meter.packMv!]).map((mv) => (mv / 1000).toFixed(3)).join(' ')}
        </p>
      )}
      {device.endedAt === null && mayEdit && (
        <>
          <PatternForm device={device} />
          <p className="mt-6 flex flex-wrap gap-3">
            <Button onClick={() => void renew()}>Make a new key</Button>
            {ending ? (
              <Button weight="main" onClick={() => void end()}>
                End it for good
              </Button>
            ) : (
              <Button weight="quiet" onClick={() => setEnding(true)}>
                End it
              </Button>
            )}
          </p>
        </>
      )}
    </section>
  );
}

interface PatternValues {
  readonly name: string;
  readonly patterns: string;
}

/** So often the device's last lines are asked for while somebody writes its patterns. */
const LOOK_EVERY_MS = 1_000;

/** What is picked out of a device's lines, with its last lines and what these patterns make of each. */
function PatternForm({ device }: { device: DeviceAnswer }) {
  const printed = useQuery({
    queryKey: ['device-lines', device.id],
    queryFn: () => ask('GET /devices/:id/lines', { params: { id: device.id } }),
    refetchInterval: LOOK_EVERY_MS,
  });
  const form = useServerForm<PatternValues>(
    `device.${device.id}`,
    { name: device.name, patterns: device.patterns.join('\n') },
    async ({ name, patterns }) => {
      await ask('PUT /devices/:id', {
        params: { id: device.id },
        body: { version: device.version, name, patterns: linesOf(patterns) },
      });
      say(`${name}: saved.`);
      await queryClient.invalidateQueries({ queryKey: KEYS.devices });
    },
  );
  const { errors, isSubmitting } = form.formState;
  const typed = linesOf(useWatch({ control: form.control, name: 'patterns' }));
  const made = typed.map((text) => patternOf(text));
  const faults = made.flatMap((one, i) =>
    'fault' in one ? [`Line ${i + 1}: ${patternFaultSentence(one.fault)}`] : [],
  );
  const patterns = made.flatMap((one) => ('fault' in one ? [] : [one]));
  const lines = printed.data?.lines ?? [];
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="mt-3 grid gap-4">
      {form.problem && <Notice title={form.problem} />}
      <TextField label="Name" error={errors.name?.message} {...form.register('name')} />
      <TextArea
        label="What its lines look like"
        hint="Only for a device that prints lines. One pattern a line: copy a line it prints and put {cells}, {pack}, {channel}, {amps}, {charge}, {seconds}, {celsius} or {skip} where the figures stand; {cells:mV} names a unit."
        rows={3}
        spellCheck={false}
        error={faults[0]}
        {...form.register('patterns')}
        className="font-mono"
      />
      <div>
        <h3 className="text-sm font-bold">Its last lines</h3>
        {lines.length === 0 ? (
          <p className="text-sm text-faint">It has printed none yet.</p>
        ) : (
          <ul aria-label="Its last lines" className="border-t border-line font-mono text-sm">
            {lines.map((line, i) => {
              const picked = pickFirst(patterns, line);
              return (
                <li key={`${i} ${line}`} className="ruled grid gap-x-4 py-0.5 sm:grid-cols-2">
                  <span className="break-all">{line === '' ? ' ' : line}</span>
                  <span className={picked ? 'font-bold text-leaf' : 'text-faint'}>
                    {picked ? pickedWords(picked) : 'nothing picked'}
                  </span>
                </li>
              );
            })}
          </ul>
        )}
      </div>
      <div>
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Save
        </Button>
      </div>
    </form>
  );
}

function linesOf(text: string): string[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
}

/** What was picked out of a line, in the order a hand would say it. */
function pickedWords({
  cellsMv,
  cell,
  packMv,
  channel,
  phase,
  amps,
  movedMah,
  seconds,
  milliohm,
  celsius,
}: Picked): string {
  const inVolts = (mv: number) => (mv / 1000).toFixed(3);
  return [
    channel && `channel ${channel}`,
    phase,
    cellsMv && `${cellsMv.map(inVolts).join(' ')} V`,
    cell && `cell ${cell.no} ${inVolts(cell.mv)} V`,
    packMv !== undefined && `pack ${inVolts(packMv)} V`,
    amps !== undefined && `${amps} A`,
    movedMah !== undefined && `${movedMah} mAh`,
    seconds !== undefined && `${seconds} s`,
    milliohm && `${milliohm.join(' ')} mΩ`,
    celsius !== undefined && `${celsius} °C`,
  ]
    .filter(Boolean)
    .join(' · ');
}
