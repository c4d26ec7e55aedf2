import { parseCelsius, parseFigure } from '../../core/reading';
import type { Load } from '../../core/charging';
import { useDraft } from '../app/drafts';

interface LoadDraft {
  readonly amps: string;
  readonly watts: string;
}

/** What a common small charger gets rid of. */
const SMALL_CHARGER: LoadDraft = { amps: '5', watts: '20' };

/** The discharger at this bench, as remembered by this device. */
export function useLoad(): Load {
  const [draft] = useDraft<LoadDraft>('load', SMALL_CHARGER);
  const amps = parseFigure(draft.amps);
  const watts = parseFigure(draft.watts);
  return {
    amps: amps.outcome === 'figure' && amps.value > 0 ? amps.value : Number(SMALL_CHARGER.amps),
    watts: watts.outcome === 'figure' && watts.value > 0 ? watts.value : null,
  };
}

/** What takes charge out at this bench, for the minutes of a storage job. */
export function LoadFields() {
  const [draft, setDraft] = useDraft<LoadDraft>('load', SMALL_CHARGER);
  const field = (name: keyof LoadDraft, unit: string) => (
    <label className="flex items-center gap-1">
      <input
        aria-label={`This bench discharges at, ${unit}`}
        inputMode="decimal"
        autoComplete="off"
        value={draft[name]}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
        className="min-h-11 w-14 border-[1.5px] border-rule bg-sheet px-1.5 text-right font-mono md:min-h-7"
      />
      {unit}
    </label>
  );
  return (
    <div className="flex flex-wrap items-center gap-x-3 text-sm text-faint">
      This bench discharges at {field('amps', 'A')} and at most {field('watts', 'W')}
    </div>
  );
}

/** How warm this bench is, as remembered by this device; packs measured on it are as warm. */
export function useBenchC(): number {
  const [typed] = useDraft<string>('bench.celsius', '20');
  const celsius = parseCelsius(typed);
  return celsius.outcome === 'figure' ? celsius.value : 20;
}

export function BenchTemperature() {
  const [typed, setTyped] = useDraft<string>('bench.celsius', '20');
  return (
    <label className="flex items-center gap-2 text-sm text-faint">
      This bench, and the packs on it, are at
      <input
        inputMode="decimal"
        autoComplete="off"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className="min-h-11 w-14 border-[1.5px] border-rule bg-sheet px-1.5 text-right font-mono md:min-h-7"
      />
      °C
    </label>
  );
}
