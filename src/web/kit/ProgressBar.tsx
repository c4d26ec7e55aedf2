import { Progress } from 'radix-ui';

/** How far something long has come, in figures and as a bar. */
export function ProgressBar({
  label,
  done,
  of,
  unit,
}: {
  label: string;
  done: number;
  of: number;
  unit: string;
}) {
  return (
    <div className="my-2">
      <p className="flex justify-between gap-4 text-sm">
        <span>{label}</span>
        <span className="font-mono">
          {done} of {of} {unit}
        </span>
      </p>
      <ProgressLine label={label} done={done} of={of} />
    </div>
  );
}

/** The bar alone, where there is no room for its words: those are read out. */
export function ProgressLine({ label, done, of }: { label: string; done: number; of: number }) {
  const most = Math.max(1, of);
  return (
    <Progress.Root
      aria-label={label}
      value={Math.min(done, most)}
      max={most}
      className="h-2 w-full border border-rule bg-sheet"
    >
      <Progress.Indicator className="h-full bg-accent" style={{ width: `${(100 * done) / most}%` }} />
    </Progress.Root>
  );
}
