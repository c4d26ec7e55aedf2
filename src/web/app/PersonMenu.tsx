import { ROLE_WORDS } from '../../core/wording';
import { DropdownMenu } from 'radix-ui';
import type { PersonAnswer } from '../../contract';
import { useKept } from './keepForOffline';
import { signOut } from './signOut';
import { chooseTheme, themeShown, useTheme } from './theme';

const ITEM =
  'flex min-h-11 cursor-pointer items-center px-4 data-highlighted:bg-press data-highlighted:outline-none md:min-h-9';

export function PersonMenu({ person, onKeySheet }: { person: PersonAnswer; onKeySheet: () => void }) {
  const packs = useKept((kept) => kept.packs);
  const theme = themeShown(useTheme((state) => state.theme));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="min-h-11 min-w-11 text-right leading-tight md:min-h-9"
        aria-label={`${person.name}, ${ROLE_WORDS[person.role]}: menu`}
      >
        <span className="font-bold max-md:hidden">{person.name}</span>
        <span className="block text-sm text-faint max-md:hidden">{ROLE_WORDS[person.role]}</span>
        <span className="inline-flex size-9 items-center justify-center border-[1.5px] border-ink font-bold md:hidden">
          {initials(person.name)}
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 min-w-48 border-2 border-ink bg-sheet"
        >
          <DropdownMenu.Item
            className={ITEM}
            onSelect={() => chooseTheme(theme === 'paper' ? 'shed' : 'paper')}
          >
            {theme === 'paper' ? 'Dark theme (shed)' : 'Light theme (paper)'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={onKeySheet}>
            Keys
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void signOut()}>
            Sign out
          </DropdownMenu.Item>
          {packs && (
            <DropdownMenu.Label className="max-w-60 border-t border-rule px-4 py-2 text-sm text-faint">
              {packs.kept === packs.of
                ? `All ${packs.of} packs are kept on this device for where there is no network.`
                : `${packs.kept} of ${packs.of} packs are kept on this device so far.`}
            </DropdownMenu.Label>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function initials(name: string): string {
  return name
    .split(/\s+/)
    .map((part) => part[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase();
}
