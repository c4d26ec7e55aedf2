import { QueryClientProvider } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Empty, Loading } from '../kit/Message';
import { PackPage } from '../packs/PackPage';
import { PacksPage } from '../packs/PacksPage';
import { UnknownTagPage } from '../packs/UnknownTagPage';
import { SignInPage } from '../people/SignInPage';
import { TodayPage } from '../today/TodayPage';
import { Failure } from './Failure';
import { Frame } from './Frame';
import { queryClient, useSession } from './queries';

const PackFormPage = lazy(() => import('../packs/PackFormPage'));
const BenchPage = lazy(() => import('../bench/BenchPage'));
const RulesPage = lazy(() => import('../rules/RulesPage'));
const SettingsPage = lazy(() => import('./SettingsPage'));
const StorageRecordPage = lazy(() => import('../storage/StorageRecordPage'));
const SetupPage = lazy(() => import('../people/SetupPage'));

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <BrowserRouter>
        <Suspense fallback={<Loading what="the page" />}>
          <Door />
        </Suspense>
      </BrowserRouter>
    </QueryClientProvider>
  );
}

/** Who may come in: nobody before setup, nobody unknown, everybody signed in. */
function Door() {
  const session = useSession();
  if (session.isPending) return <Loading what="the register" />;
  if (session.isError) return <Failure error={session.error} retry={() => void session.refetch()} />;
  const { data } = session;
  switch (data.state) {
    case 'setup':
      return <SetupPage />;
    case 'signed-out':
      return <SignInPage demoPeople={data.demoPeople} />;
    case 'signed-in':
      return (
        <Routes>
          <Route element={<Frame person={data.person} demo={data.demo} />}>
            <Route index element={<TodayPage />} />
            <Route path="packs" element={<PacksPage />} />
            <Route path="packs/receive" element={<PackFormPage />} />
            <Route path="packs/:id" element={<PackPage />} />
            <Route path="packs/:id/edit" element={<PackFormPage />} />
            <Route path="tag/:tag" element={<UnknownTagPage />} />
            <Route path="storage" element={<StorageRecordPage />} />
            <Route path="bench" element={<BenchPage />} />
            <Route path="rules" element={<RulesPage />} />
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
