import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense, useEffect } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Empty, Loading } from '../kit/Message';
import { lazyPart } from '../kit/lazyPart';
import { TodayPage } from '../today/TodayPage';
import { takeEarlyScans } from './earlyScans';
import { Failure } from './Failure';
import { Frame } from './Frame';
import { firstPageOf } from './sections';
import { queryClient, useSession } from './queries';

const ReportPage = lazyPart(() => import('../incidents/ReportPage'));
const IncidentsPage = lazyPart(() => import('../incidents/IncidentsPage'));
const PackPage = lazyPart(() => import('../packs/pack/PackPage'));
const PacksPage = lazyPart(() => import('../packs/register/PacksPage'));
const RoundPage = lazyPart(() => import('../rounds/RoundPage'));
const RoundsPage = lazyPart(() => import('../rounds/RoundsPage'));
const SummaryPage = lazyPart(() => import('../rounds/SummaryPage'));
const UnknownTagPage = lazyPart(() => import('../packs/register/UnknownTagPage'));
const StowagePage = lazyPart(() => import('../stowage/StowagePage'));
const MinePage = lazyPart(() => import('../mine/MinePage'));
const FlyingPage = lazyPart(() => import('../flying/FlyingPage'));
const TakeOutPage = lazyPart(() => import('../flying/TakeOutPage'));
const ReturnPage = lazyPart(() => import('../flying/ReturnPage'));
const HandOutPage = lazyPart(() => import('../flying/HandOutPage'));
const ChargingPage = lazyPart(() => import('../charging/ChargingPage'));
const OnePackPage = lazyPart(() => import('../charging/OnePackPage'));
const DialCardPage = lazyPart(() => import('../charging/DialCardPage'));
const EndJobPage = lazyPart(() => import('../charging/EndJobPage'));
const PackFormPage = lazyPart(() => import('../packs/register/PackFormPage'));
const IncidentPage = lazyPart(() => import('../incidents/IncidentPage'));
const HoldsPage = lazyPart(() => import('../incidents/HoldsPage'));
const DecidePage = lazyPart(() => import('../packs/decisions/DecidePage'));
const RecoveryPage = lazyPart(() => import('../packs/decisions/RecoveryPage'));
const EndOfLifePage = lazyPart(() => import('../endoflife/EndOfLifePage'));
const ConsignmentPage = lazyPart(() => import('../endoflife/ConsignmentPage'));
const BatchPage = lazyPart(() => import('../endoflife/BatchPage'));
const ReportsPage = lazyPart(() => import('../reports/ReportsPage'));
const SheetPage = lazyPart(() => import('../rounds/SheetPage'));
const DeliveryPage = lazyPart(() => import('../packs/register/DeliveryPage'));
const LabelsPage = lazyPart(() => import('../packs/register/LabelsPage'));
const FleetPage = lazyPart(() => import('../fleet/FleetPage'));
const BenchPage = lazyPart(() => import('../bench/BenchPage'));
const RulesPage = lazyPart(() => import('../rules/RulesPage'));
const SettingsPage = lazyPart(() => import('./SettingsPage'));
const StorageRecordPage = lazyPart(() => import('../storage/StorageRecordPage'));
const SetupPage = lazyPart(() => import('../people/SetupPage'));
const SignInPage = lazyPart(() => import('../people/SignInPage'));
const AccountPage = lazyPart(() => import('../people/AccountPage'));
const ChangePersonPage = lazyPart(() => import('../people/ChangePersonPage'));
const WelcomePage = lazyPart(() => import('../people/WelcomePage'));

/** Fetched when the browser is idle, the cards for an incident first of all, so that the first screen is light and none is missing without a connection. */
const AHEAD = [
  ReportPage,
  IncidentsPage,
  PackPage,
  PacksPage,
  RoundPage,
  RoundsPage,
  SummaryPage,
  UnknownTagPage,
  StowagePage,
  MinePage,
  FlyingPage,
  TakeOutPage,
  ReturnPage,
  HandOutPage,
  ChargingPage,
  OnePackPage,
  DialCardPage,
  EndJobPage,
  PackFormPage,
  IncidentPage,
];

/** Fetches what will be wanted next, one after the other, once the browser has nothing else to do. */
function fetchPages(): void {
  const rest = [...AHEAD];
  const whenIdle = (work: () => void) =>
    'requestIdleCallback' in window ? requestIdleCallback(work, { timeout: 5_000 }) : setTimeout(work, 1_000);
  const next = () => {
    // A browser remembers a module it could not fetch, so nothing is asked for while there is no connection.
    if (!navigator.onLine) {
      window.addEventListener('online', next, { once: true });
      return;
    }
    const page = rest.shift();
    if (page)
      void page
        .ahead()
        .catch(() => undefined)
        .finally(() => whenIdle(next));
  };
  whenIdle(next);
}

/** Which page this device opens on: who uses it seldom changes. */
const FIRST_PAGE = 'malle.first-page';
const PACK_ADDRESS = /^\/packs\/[0-9a-f-]{36}$/;

/** The page that is about to be shown, as far as the address tells: fetched while it is asked who is there, not after. */
function fetchFirstPage(): void {
  const { pathname } = window.location;
  const isMine = pathname === '/' && localStorage.getItem(FIRST_PAGE) === 'mine';
  const page = PACK_ADDRESS.test(pathname) ? PackPage : isMine ? MinePage : null;
  page?.ahead().catch(() => undefined);
}

fetchFirstPage();

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <BrowserRouter>
        <Suspense fallback={<Loading what="the page" />}>
          <Routes>
            {/* Whoever has a link comes in by it, signed in as somebody else or not. */}
            <Route path="welcome" element={<WelcomePage />} />
            <Route path="*" element={<SessionGate />} />
          </Routes>
        </Suspense>
      </BrowserRouter>
    </QueryClientProvider>
  );
}

/** Who may come in: nobody before setup, nobody unknown, everybody signed in. */
function SessionGate() {
  const session = useSession();
  const isIn = session.data?.state === 'signed-in';
  const state = session.data?.state;
  const firstPage = session.data?.state === 'signed-in' ? firstPageOf(session.data.person.role) : null;
  useEffect(() => {
    if (firstPage) localStorage.setItem(FIRST_PAGE, firstPage);
  }, [firstPage]);
  useEffect(() => {
    if (isIn) fetchPages();
    // What is typed to sign in is nobody's scan.
    else if (state !== undefined) takeEarlyScans();
  }, [isIn, state]);
  if (session.isPending) return <Loading what="the register" />;
  if (session.isLoadingError) return <Failure error={session.error} retry={() => void session.refetch()} />;
  const { data } = session;
  switch (data.state) {
    case 'setup':
      return <SetupPage custodians={data.custodians} />;
    case 'signed-out':
      return <SignInPage demoPeople={data.demoPeople} bench={data.bench} />;
    case 'signed-in':
      return (
        <Routes>
          <Route
            element={<Frame person={data.person} demo={data.demo} bench={data.bench} heldBy={data.heldBy} />}
          >
            <Route index element={firstPageOf(data.person.role) === 'mine' ? <MinePage /> : <TodayPage />} />
            <Route path="today" element={<TodayPage />} />
            <Route path="packs" element={<PacksPage />} />
            <Route path="packs/receive" element={<PackFormPage />} />
            <Route path="packs/deliver" element={<DeliveryPage />} />
            <Route path="packs/stowage" element={<StowagePage />} />
            <Route path="packs/labels" element={<LabelsPage />} />
            <Route path="packs/:id" element={<PackPage />} />
            <Route path="packs/:id/edit" element={<PackFormPage />} />
            <Route path="packs/:id/decide" element={<DecidePage />} />
            <Route path="packs/:id/recovery" element={<RecoveryPage />} />
            <Route path="tag/:tag" element={<UnknownTagPage />} />
            <Route path="rounds" element={<RoundsPage />} />
            <Route path="rounds/:id" element={<RoundPage />} />
            <Route path="rounds/:id/summary" element={<SummaryPage />} />
            <Route path="rounds/:id/sheet" element={<SheetPage />} />
            <Route path="flying" element={<Navigate to="out" replace />} />
            <Route path="flying/take-out" element={<TakeOutPage />} />
            <Route path="flying/return" element={<ReturnPage />} />
            <Route path="flying/days/:id" element={<HandOutPage />} />
            <Route path="flying/:tab" element={<FlyingPage />} />
            <Route path="charging" element={<Navigate to="plan" replace />} />
            <Route path="charging/now" element={<OnePackPage />} />
            <Route path="charging/:tab" element={<ChargingPage />} />
            <Route path="charging/jobs/:id" element={<DialCardPage />} />
            <Route path="charging/jobs/:id/end" element={<EndJobPage />} />
            <Route path="incidents" element={<IncidentsPage />} />
            <Route path="incidents/holds" element={<HoldsPage />} />
            <Route path="incidents/new" element={<ReportPage />} />
            <Route path="incidents/new/:kind" element={<ReportPage />} />
            <Route path="incidents/new/:kind/:log" element={<ReportPage />} />
            <Route path="incidents/:id" element={<IncidentPage />} />
            <Route path="end-of-life" element={<Navigate to="decisions" replace />} />
            <Route path="end-of-life/batch" element={<BatchPage />} />
            <Route path="end-of-life/:tab" element={<EndOfLifePage />} />
            <Route path="end-of-life/consignments/:id" element={<ConsignmentPage />} />
            <Route path="reports" element={<ReportsPage />} />
            <Route path="storage" element={<StorageRecordPage />} />
            <Route path="fleet" element={<Navigate to="buy" replace />} />
            <Route path="fleet/:tab" element={<FleetPage />} />
            <Route path="bench" element={<BenchPage />} />
            <Route path="rules" element={<RulesPage />} />
            <Route path="account" element={<AccountPage />} />
            <Route path="change-person" element={<ChangePersonPage />} />
            <Route path="settings" element={<Navigate to="types" replace />} />
            <Route path="settings/:table" element={<SettingsPage />} />
            <Route path="settings/:table/:id" element={<SettingsPage />} />
            <Route
              path="*"
              element={<Empty title="There is no such page.">Scan a tag, or choose a section.</Empty>}
            />
          </Route>
        </Routes>
      );
    default:
      return data satisfies never;
  }
}
