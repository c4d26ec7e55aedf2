import { DropdownMenu } from 'radix-ui';
import type { ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { useKept } from './keepForOffline';
import { signOut } from './signOut';
import { chooseTheme, themeShown, useTheme } from './theme';

const ITEM =
  'flex min-h-11 cursor-pointer items-center px-4 data-highlighted:bg-press data-highlighted:outline-none md:min-h-9';

/** What the person at this device may choose for themselves. */
export default function PersonMenu({
  trigger,
  isOpen,
  isShared,
  onKeySheet,
}: {
  trigger: ReactElement;
  isOpen: boolean;
  /** Whether this browser stands at a shared bench. */
  isShared: boolean;
  onKeySheet: () => void;
}) {
  const navigate = useNavigate();
  const packs = useKept((kept) => kept.packs);
  const theme = themeShown(useTheme((state) => state.theme));
  return (
    <DropdownMenu.Root defaultOpen={isOpen}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 min-w-48 border-2 border-ink bg-sheet"
        >
          {isShared && (
            <DropdownMenu.Item className={ITEM} onSelect={() => void navigate('/change-person')}>
              Change person
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item
            className={ITEM}
            onSelect={() => chooseTheme(theme === 'paper' ? 'shed' : 'paper')}
          >
            {theme === 'paper' ? 'Dark theme (shed)' : 'Light theme (paper)'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void navigate('/account')}>
            Your account
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
