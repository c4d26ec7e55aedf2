import './app.css';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app/App';
import { useDrafts } from './app/drafts';
import { hearEarlyScans } from './app/earlyScans';
import { keepApplication } from './app/keepApplication';
import { useOutbox } from './app/outbox';
import { useSent } from './app/sent';
import { keepOfflineCopies } from './app/queries';
import { useTableLayouts } from './app/tableLayouts';
import { shareAcrossTabs } from './app/tabs';
import { startTheme, useTheme } from './app/theme';

// Dialogs add a style element at run time; the content-security policy lets it through by this nonce only.
setNonce(document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? '');
hearEarlyScans();
startTheme();
shareAcrossTabs(useDrafts, useOutbox, useSent, useTableLayouts, useTheme);
keepOfflineCopies();
window.addEventListener('load', keepApplication);
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
