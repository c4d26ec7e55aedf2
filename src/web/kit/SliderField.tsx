import { Label, Slider } from 'radix-ui';
import { useId } from 'react';
import type { ReactNode } from 'react';

/** A figure that is moved along a line; what it stands for is written above it. */
export function SliderField({
  label,
  value,
  words,
  min,
  max,
  step,
  hint,
  onChange,
}: {
  label: string;
  value: number;
  /** The value in words, as a screen reader says it too. */
  words: string;
  min: number;
  max: number;
  step: number;
  hint?: ReactNode;
  onChange: (value: number) => void;
}) {
  const id = useId();
  return (
    <div>
      <p className="flex justify-between gap-4 text-sm">
        <Label.Root id={id} className="font-bold">
          {label}
        </Label.Root>
        <span>{words}</span>
      </p>
      <Slider.Root
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        className="relative flex h-11 w-full touch-none items-center select-none md:h-8"
      >
        <Slider.Track className="relative h-1 grow bg-rule">
          <Slider.Range className="absolute h-full bg-accent" />
        </Slider.Track>
        <Slider.Thumb
          aria-labelledby={id}
          aria-valuetext={words}
          className="block size-6 rounded-sm border-2 border-accent bg-sheet md:size-5"
        />
      </Slider.Root>
      {hint && <p className="text-sm text-faint">{hint}</p>}
    </div>
  );
}
