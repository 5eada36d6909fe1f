import '@fontsource/atkinson-hyperlegible-next/latin-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-600.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-600.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { onShutOut } from './api/client';
import { App } from './app/App';
import { install } from './app/install';
import { fetchBench } from './app/routes';
import { startListening } from './live/browser';
import { log, startSending } from './log/browser';

// A device that was shut out sees the code page as soon as it loads anew, unless this page alone
// has entries that would be lost with it.
onShutOut(() => {
  if (log.status().fleeting === 0) location.reload();
});
startSending();
startListening();
install();
fetchBench();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
