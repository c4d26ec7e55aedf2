import type { EquipmentAnswer } from '../../contract';

/** A channel by its charger's name; a load or a charger with one channel by its name alone. */
export function stationName(
  equipment: readonly EquipmentAnswer[],
  equipmentId: string,
  channel: string | null,
): string {
  const found = equipment.find(({ id }) => id === equipmentId);
  if (!found) return 'something no longer known';
  const channels = found.facts.kind === 'charger' ? found.facts.channels.length : 1;
  return channel === null || channels < 2 ? found.name : `${found.name} ${channel}`;
}

/** A channel, or a load, as one word: what a page's address and a list of choices name it by. */
export function placeKey(equipmentId: string, channel: string | null): string {
  return `${equipmentId} ${channel ?? ''}`;
}

/** A channel of a charger that is in use, or a load. */
export interface Station {
  readonly key: string;
  readonly id: EquipmentAnswer['id'];
  readonly channel: string | null;
  readonly name: string;
  readonly outOfOrder: boolean;
}

/** Every place of the bench at which one job can run, in the order of the register. */
export function stationsOf(equipment: readonly EquipmentAnswer[]): readonly Station[] {
  return equipment.flatMap(({ id, inUse, facts }) => {
    if (!inUse) return [];
    const channels =
      facts.kind === 'charger'
        ? facts.channels
        : facts.kind === 'load'
          ? [{ key: null, outOfOrder: false }]
          : [];
    return channels.map(({ key: channel, outOfOrder }) => ({
      key: placeKey(id, channel),
      id,
      channel,
      name: stationName(equipment, id, channel),
      outOfOrder,
    }));
  });
}
