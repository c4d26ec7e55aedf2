import { useState } from 'react';
import type { EquipmentAnswer, PackTypeAnswer } from '../../contract';
import type { EquipmentFacts, EquipmentKind } from '../../core/charging';
import { EQUIPMENT_KINDS } from '../../core/charging';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import { plural } from '../../core/wording';
import { NamedTable } from '../domain/tables/NamedTable';
import { Choice } from '../kit/fields';
import { AdapterForm, BoardForm, LoadForm, SupplyForm } from './BenchThingForms';
import { ChargerForm } from './ChargerForm';

/** What stands on the bench: chargers, loads, boards, adapters and supplies. */
export function EquipmentTable({
  equipment,
  types,
}: {
  equipment: readonly EquipmentAnswer[];
  types: readonly PackTypeAnswer[];
}) {
  return (
    <NamedTable
      path="equipment"
      one="charger or other thing"
      things={equipment}
      action="equipment.edit"
      describe={({ facts, inUse }) => `${describe(facts)}${inUse ? '' : '; in the cupboard'}`}
      form={(thing) => <EquipmentForm thing={thing} equipment={equipment} types={types} />}
    />
  );
}

const KIND_NAMES: Readonly<Record<EquipmentKind, string>> = {
  charger: 'charger',
  load: 'load',
  board: 'board',
  adapter: 'adapter',
  supply: 'supply',
};

function describe(facts: EquipmentFacts): string {
  switch (facts.kind) {
    case 'charger':
      return `charger, ${plural(facts.channels.length, 'channel')}, ${CHEMISTRIES.filter(
        (chemistry) => facts.cells[chemistry],
      )
        .map((chemistry) => CHEMISTRY[chemistry].name)
        .join(', ')}`;
    case 'load':
      return `load, ${facts.amps} A, ${facts.watts} W`;
    case 'board':
      return `${facts.wiring} board, ${facts.ports} ports`;
    case 'adapter':
      return `adapter, ${facts.from} to ${facts.to}`;
    case 'supply':
      return `supply${facts.watts === null ? '' : `, ${facts.watts} W`}${facts.energyWh === null ? '' : `, ${facts.energyWh} Wh`}`;
    default:
      return facts satisfies never;
  }
}

function EquipmentForm({
  thing,
  equipment,
  types,
}: {
  thing: EquipmentAnswer | null;
  equipment: readonly EquipmentAnswer[];
  types: readonly PackTypeAnswer[];
}) {
  const [kind, setKind] = useState<EquipmentKind>(thing?.facts.kind ?? 'charger');
  const plugs = [...new Set(types.flatMap(({ connector }) => connector ?? []))];
  return (
    <div className="grid gap-4">
      {!thing && (
        <Choice
          label="It is a"
          value={kind}
          onChange={setKind}
          options={EQUIPMENT_KINDS.map((value) => ({ value, label: KIND_NAMES[value] }))}
        />
      )}
      {kind === 'charger' && <ChargerForm thing={thing} equipment={equipment} plugs={plugs} />}
      {kind === 'load' && <LoadForm thing={thing} plugs={plugs} />}
      {kind === 'board' && <BoardForm thing={thing} plugs={plugs} />}
      {kind === 'adapter' && <AdapterForm thing={thing} plugs={plugs} />}
      {kind === 'supply' && <SupplyForm thing={thing} />}
    </div>
  );
}
