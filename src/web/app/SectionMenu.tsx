import { DropdownMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { Link } from 'react-router';
import type { Section } from './sections';

/** The sections that are one press further. */
export default function SectionMenu({
  trigger,
  isOpen,
  sections,
  side,
}: {
  trigger: ReactElement;
  isOpen: boolean;
  sections: readonly Section[];
  side: 'top' | 'bottom';
}) {
  return (
    <DropdownMenu.Root defaultOpen={isOpen}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side={side}
          align="end"
          className="z-50 min-w-48 border-2 border-ink bg-ground py-1"
        >
          {sections.map(({ path, name }) => (
            <DropdownMenu.Item key={path} asChild>
              <Link
                to={path}
                className="flex min-h-12 items-center px-4 data-highlighted:bg-press md:min-h-9"
              >
                {name}
              </Link>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
