/** The pack's tag, stamped like a luggage label: strap hole, cut corners, letters set wide. */
export function TagPlate({ tag, under }: { tag: string; under: string }) {
  return (
    <div className="relative flex min-h-20 max-w-80 items-center pr-5 pl-14">
      <svg
        className="absolute inset-0 size-full"
        viewBox="0 0 300 84"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path
          d="M22 1.5h262l14.5 14.5v52L284 82.5H22L1.5 62V22z"
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
        <path
          d="M48 7.5h232.5L292.5 19v46L280.5 76.500H48"
          fill="none"
          stroke="var(--rule)"
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <svg className="absolute left-4.5 size-6" viewBox="0 0 24 24" aria-hidden="true">
        <circle cx="12" cy="12" r="10.5" fill="var(--press)" stroke="var(--rule)" />
        <circle cx="12" cy="12" r="6" fill="var(--ground)" stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <span className="relative min-w-0">
        <h1 className="font-mono text-3xl leading-none font-bold tracking-[0.12em] break-all">{tag}</h1>
        <span className="mt-1 block text-sm text-faint">{under}</span>
      </span>
    </div>
  );
}
