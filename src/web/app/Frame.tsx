import { ChevronDown, CircleAlert } from 'lucide-react';
import { Suspense, useCallback, useEffect, useEffectEvent, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import type { PersonAnswer, SessionAnswer } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import { tagKey } from '../../core/pack';
import { ROLE_WORDS } from '../../core/wording';
import { lazyPart } from '../kit/lazyPart';
import { isBadge } from './changePerson';
import { saveDraft } from './drafts';
import { useConfirmation } from './confirmation';
import { RestoredLine } from './RestoredLine';
import { takeEarlyScans } from './earlyScans';
import { Guarded } from './Failure';
import { PersonProvider } from '../domain/Person';
import { MenuLater } from './MenuLater';
import { useRegister } from './queries';
import { fetchJudge, usePackRows } from '../domain/waitingRows';
import { packOfTag, tagScanned } from './scan';
import { firstPageOf, navigationOf } from './sections';
import type { Section } from './sections';
import { offerScan, scanInbox } from './scanTarget';
import type { Suggestion, Verb } from './scan';
import { ScanField } from './ScanField';
import { onceSettled } from './settled';
import { signOut } from './signOut';
import { chooseTheme } from './theme';
import { useKeys } from './useKeys';
import { Connection, LostLine, useConnection } from './Connection';

const Notices = lazyPart(() => import('./Notices'));
const ConfirmSheet = lazyPart(() => import('./ConfirmSheet'));
const KeySheet = lazyPart(() => import('./KeySheet'));
const PersonMenu = lazyPart(() => import('./PersonMenu'));
const SectionMenu = lazyPart(() => import('./SectionMenu'));

type SignedInAnswer = Extract<SessionAnswer, { state: 'signed-in' }>;

/** What stays on screen in every section: the scan field, the sections, who is signed in, and whether the page is live. */
export function Frame({
  person,
  demo,
  bench,
  heldBy,
}: Pick<SignedInAnswer, 'person' | 'demo' | 'bench' | 'heldBy'>) {
  const [keySheet, setKeySheet] = useState(false);
  const confirmation = useConfirmation(({ answer }) => answer);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { work, house } = navigationOf(person.role);
  const packs = usePackRows({ isPatient: true });
  const rows = packs.data;
  const isReady = !packs.isPending;
  const places = useRegister().data?.places;
  useConnection(person);
  // A device that loses its network judges by itself what is written on it.
  useEffect(() => onceSettled(() => void fetchJudge().catch(() => undefined)), []);

  const takeScan = useEffectEvent((tag: string) => {
    if (offerScan(tag)) return;
    const row = packOfTag(tag, rows ?? []);
    if (!row && places?.some(({ code }) => code !== null && tagKey(code) === tagKey(tag)))
      return void navigate('/packs/stowage');
    if (row) return void navigate(`/packs/${row.id}`);
    const openUnknown = () => void navigate(`/tag/${encodeURIComponent(tag)}`);
    if (!bench) return openUnknown();
    void isBadge(tag).then((isIn) => !isIn && openUnknown());
  });
  const [inbox] = useState(() => scanInbox());
  useEffect(() => {
    for (const scanned of takeEarlyScans()) inbox.put(tagScanned(scanned));
  }, [inbox]);
  // Before the packs are here no tag means anything: a scan waits for them.
  useEffect(() => (isReady ? inbox.open((tag) => takeScan(tag)) : undefined), [inbox, isReady]);
  const onScan = useCallback((scanned: string) => inbox.put(tagScanned(scanned)), [inbox]);
  const showKeys = useCallback(() => setKeySheet(true), []);
  const go = useCallback((path: string) => void navigate(path), [navigate]);
  useKeys({ onScan, onKeySheet: showKeys, go });

  const onChoose = (chosen: Suggestion) => {
    if (chosen.kind === 'command') return command(chosen.verb, go, showKeys);
    if (chosen.kind === 'packs') return go(`/packs?q=${encodeURIComponent(chosen.name)}`);
    if (chosen.volts) saveDraft(`reading.${chosen.row.id}`, { text: chosen.volts });
    go(`/packs/${chosen.row.id}`);
  };

  return (
    <PersonProvider person={person}>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:top-0 focus:left-0 focus:z-50 focus:bg-ink focus:px-3 focus:py-2 focus:text-ground"
      >
        To the page
      </a>
      <header className="sticky top-0 z-20 border-b-2 border-ink bg-ground print:hidden">
        <div className="mx-auto flex max-w-350 items-center gap-3 px-3 pt-2 pb-2 md:gap-6 md:px-6 md:pb-1">
          <NavLink
            to="/"
            className="flex items-center gap-2 text-xl font-bold tracking-wide"
            aria-label={`Malle, to ${firstPageOf(person.role) === 'mine' ? 'your packs' : 'Today'}`}
          >
            <Trunk />
            <span className="max-md:hidden">Malle</span>
          </NavLink>
          <ScanField onChoose={onChoose} onUnknown={(typed) => onScan(typed)} />
          <div className="ml-auto flex items-center gap-4">
            {demo && <span className="text-sm text-faint max-lg:hidden">made-up register</span>}
            <ReportLink person={person} pathname={pathname} />
            <Connection />
            <PersonButton person={person} isShared={Boolean(bench)} onKeySheet={showKeys} />
          </div>
        </div>
        <nav aria-label="Sections" className="mx-auto max-w-350 px-3 max-md:hidden md:px-6">
          <SectionLinks sections={work} className={TAB} />
          <MoreSections name="House" sections={house} pathname={pathname} className={TAB} side="bottom" />
        </nav>
      </header>
      <LostLine />
      <RestoredLine />
      {heldBy === 'second-factor' && <FactorLine />}
      <main
        id="main"
        data-at={pathname}
        className="mx-auto max-w-350 px-3 pt-4 pb-28 md:px-6 md:pb-10"
        tabIndex={-1}
      >
        <Guarded key={pathname}>
          <Outlet />
        </Guarded>
      </main>
      <nav
        aria-label="Sections"
        className="fixed inset-x-0 bottom-0 z-20 flex border-t-2 border-ink bg-ground pb-[env(safe-area-inset-bottom)] md:hidden print:hidden"
      >
        <SectionLinks sections={work.slice(0, UNDER_THUMB)} className={THUMB} />
        <MoreSections
          name="More"
          sections={[...work.slice(UNDER_THUMB), ...house]}
          pathname={pathname}
          className={THUMB}
          side="top"
        />
      </nav>
      <Suspense>
        <Notices />
        {confirmation && <ConfirmSheet onAnswer={confirmation} />}
        {keySheet && <KeySheet onClose={() => setKeySheet(false)} />}
      </Suspense>
    </PersonProvider>
  );
}

const TAB =
  'inline-block border-b-3 border-transparent px-3 py-1.5 first:pl-0 first:ml-0 aria-[current=page]:border-ink aria-[current=page]:font-bold hover:border-rule';

const THUMB =
  'flex min-h-14 flex-1 items-center justify-center border-t-3 border-transparent px-1 text-center text-sm aria-[current=page]:border-ink aria-[current=page]:font-bold';

/** So many sections fit under a thumb; the others are one press further. */
const UNDER_THUMB = 4;

/** Something went wrong: from every page, and first of all. */
function ReportLink({ person, pathname }: { person: PersonAnswer; pathname: string }) {
  if (!mayDo(person.role, 'incident.report')) return null;
  // On a pack's page it is that pack.
  const onPack = /^\/packs\/([0-9a-f-]{36})$/.exec(pathname);
  return (
    <Link
      to={`/incidents/new${onPack ? `?pack=${onPack[1]}` : ''}`}
      aria-label="Report an incident"
      className="inline-flex min-h-11 min-w-11 items-center justify-center gap-x-1.5 rounded-sm border-[1.5px] border-red px-2.5 font-bold whitespace-nowrap text-red hover:bg-wash-red max-md:flex-col max-md:px-1 max-md:text-xs md:min-h-8"
    >
      <CircleAlert size={16} strokeWidth={2.4} aria-hidden="true" />
      Incident
    </Link>
  );
}

/** The sections that are one press further. */
function MoreSections({
  name,
  sections,
  pathname,
  className,
  side,
}: {
  name: string;
  sections: readonly Section[];
  pathname: string;
  className: string;
  side: 'top' | 'bottom';
}) {
  const here = sections.some(({ path }) => pathname.startsWith(path));
  const button = (
    <button type="button" aria-haspopup="menu" className={className} aria-current={here ? 'page' : undefined}>
      {name}
      {side === 'bottom' && (
        <ChevronDown size={15} strokeWidth={2.2} className="ml-1 inline" aria-hidden="true" />
      )}
    </button>
  );
  return (
    <MenuLater
      button={button}
      part={SectionMenu}
      menu={(trigger, isOpen) => (
        <SectionMenu trigger={trigger} isOpen={isOpen} sections={sections} side={side} />
      )}
    />
  );
}

/** Says why a custodian sees no more than a deputy does. */
function FactorLine() {
  return (
    <p role="status" className="mx-auto max-w-350 bg-wash-amber px-3 py-1.5 text-sm md:px-6 print:hidden">
      This register asks custodians for a second factor. Until you have one you may do what a deputy may.{' '}
      <Link to="/account" className="font-bold text-accent underline">
        Set it up
      </Link>
    </p>
  );
}

/** Who is signed in, and what is theirs to choose. */
function PersonButton({
  person,
  isShared,
  onKeySheet,
}: {
  person: PersonAnswer;
  isShared: boolean;
  onKeySheet: () => void;
}) {
  const button = (
    <button
      type="button"
      aria-haspopup="menu"
      className="min-h-11 min-w-11 text-right leading-tight md:min-h-9"
      aria-label={`${person.name}, ${ROLE_WORDS[person.role]}: menu`}
    >
      <span className="block font-bold max-md:hidden">{person.name}</span>
      <span className="block text-sm text-faint max-md:hidden">{ROLE_WORDS[person.role]}</span>
      <span className="inline-flex size-9 items-center justify-center border-[1.5px] border-ink font-bold md:hidden">
        {initials(person.name)}
      </span>
    </button>
  );
  return (
    <MenuLater
      button={button}
      part={PersonMenu}
      menu={(trigger, isOpen) => (
        <PersonMenu trigger={trigger} isOpen={isOpen} isShared={isShared} onKeySheet={onKeySheet} />
      )}
    />
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

function SectionLinks({ sections, className }: { sections: readonly Section[]; className: string }) {
  return sections.map(({ path, name }) => (
    <NavLink key={path} to={path} end={path === '/'} className={className}>
      {name}
    </NavLink>
  ));
}

function command(verb: Verb, go: (path: string) => void, showKeys: () => void): void {
  switch (verb) {
    case 'today':
      return go('/today');
    case 'packs':
      return go('/packs');
    case 'stowage':
      return go('/packs/stowage');
    case 'delivery':
      return go('/packs/deliver');
    case 'receive':
      return go('/packs/receive');
    case 'incident':
      return go('/incidents/new');
    case 'take out':
      return go('/flying/take-out');
    case 'return':
      return go('/flying/return');
    case 'holds':
      return go('/incidents/holds');
    case 'disposal':
      return go('/end-of-life');
    case 'flying':
    case 'charging':
    case 'incidents':
    case 'reports':
    case 'rounds':
    case 'storage':
    case 'bench':
    case 'rules':
      return go(`/${verb}`);
    case 'settings':
      return go('/settings');
    case 'paper':
    case 'shed':
      return chooseTheme(verb);
    case 'keys':
      return showKeys();
    case 'sign out':
      return void signOut();
    default:
      return verb satisfies never;
  }
}

function Trunk() {
  return (
    <svg
      viewBox="0 0 24 24"
      width="26"
      height="26"
      fill="none"
      stroke="var(--accent)"
      strokeWidth="1.8"
      aria-hidden="true"
    >
      <path d="M2.5 8.500h19v12h-19zM2.5 12.500h19M7 8.500v12M17 8.500v12M9.5 8.500V5.500h5v3" />
    </svg>
  );
}
