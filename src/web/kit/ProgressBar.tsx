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
      <progress
        aria-label={label}
        value={done}
        max={Math.max(1, of)}
        className="block h-2 w-full appearance-none border border-rule bg-sheet accent-(--accent) [&::-webkit-progress-bar]:bg-sheet [&::-webkit-progress-value]:bg-accent"
      />
    </div>
  );
}
