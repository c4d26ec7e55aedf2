import clsx from 'clsx';
import type { ButtonHTMLAttributes } from 'react';
import { Link } from 'react-router';
import type { LinkProps } from 'react-router';

type Weight = 'main' | 'plain' | 'quiet';

const LOOK: Readonly<Record<Weight, string>> = {
  main: 'border-accent bg-accent text-on-accent font-bold enabled:hover:opacity-90',
  plain: 'border-accent text-accent font-bold hover:bg-press',
  quiet: 'border-transparent text-accent underline-offset-3 hover:underline',
};

/** At least 44 px tall where a thumb presses it, lower where a mouse does. */
const SIZE =
  'inline-flex items-center justify-center gap-1.5 rounded-sm border-[1.5px] px-3 min-h-11 md:min-h-8 whitespace-nowrap print:hidden';

export function Button({
  weight = 'plain',
  className,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { weight?: Weight }) {
  return (
    <button type="button" {...rest} className={clsx(SIZE, LOOK[weight], 'disabled:opacity-55', className)} />
  );
}

export function ButtonLink({
  weight = 'plain',
  className,
  ...rest
}: LinkProps & { weight?: Weight; className?: string }) {
  return <Link {...rest} className={clsx(SIZE, LOOK[weight], className)} />;
}
