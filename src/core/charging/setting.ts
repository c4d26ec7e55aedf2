import type { Chemistry } from '../chemistry';
import type { ChargeMode } from '../record';
import type { SettingField } from './equipment';

/** What a channel is set to for a job. Amps are the whole current; null where the field does not exist for the job. */
export interface ChargerSetting {
  readonly chemistry: Chemistry;
  readonly mode: ChargeMode;
  readonly cells: number;
  /** Volts per cell the charge ends at, millivolts; null for a discharge and for nickel, which ends on a peak. */
  readonly topMv: number | null;
  readonly amps: number;
}

/** One field of a card that must be changed on the channel, from what it was last set to. */
export interface SettingChange {
  readonly field: SettingField;
  readonly from: string | number | null;
  readonly to: string | number | null;
  /** Left as it is this one would burn the pack: another chemistry, a higher top, more cells. */
  readonly dangerous: boolean;
}

/**
 * What must be changed on a channel that remembers its last setting, field by field in the order of the card. A channel of which
 * nothing is known differs in everything.
 */
export function settingChanges(
  last: ChargerSetting | null,
  wanted: ChargerSetting,
): readonly SettingChange[] {
  const all: SettingChange[] = [
    {
      field: 'chemistry',
      from: last?.chemistry ?? null,
      to: wanted.chemistry,
      dangerous: last !== null && last.chemistry !== wanted.chemistry,
    },
    {
      field: 'mode',
      from: last?.mode ?? null,
      to: wanted.mode,
      dangerous: false,
    },
    {
      field: 'cells',
      from: last?.cells ?? null,
      to: wanted.cells,
      dangerous: last !== null && last.cells > wanted.cells,
    },
    {
      field: 'topV',
      from: last?.topMv ?? null,
      to: wanted.topMv,
      dangerous: last?.topMv != null && wanted.topMv !== null && last.topMv > wanted.topMv,
    },
    {
      field: 'amps',
      from: last?.amps ?? null,
      to: wanted.amps,
      dangerous: false,
    },
  ];
  return all.filter(({ from, to }) => from !== to);
}

/** Whether two settings are the same but for the current, which is turned with one knob: the planner counts only the others. */
export function settingKey({ chemistry, mode, cells, topMv }: ChargerSetting): string {
  return `${chemistry} ${mode} ${cells} ${topMv ?? '-'}`;
}
