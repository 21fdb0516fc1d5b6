import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './App';
import { cache } from './api/cache';
import { Refusal } from './api/client';
import { sessionQuery } from './api/queries';
import { anyMayBeLost, leaveAll } from './engine/changes/hands';
import { Guarded } from './ui/Guarded';
import { Notices } from './ui/Notices';
import { Tips } from './ui/Tip';
import './theme/theme.css';

cache.getQueryCache().subscribe(({ query, type }) => {
  const error = query.state.error;
  if (type === 'updated' && error instanceof Refusal && error.status === 401) {
    cache.invalidateQueries({ queryKey: sessionQuery.queryKey });
  }
});
// What is being typed is kept as if its field were left. What still waits for its turn then may be lost with the page: the browser
// asks whether that is meant.
window.addEventListener('beforeunload', (event) => {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) {
    field.blur();
    field.focus(); // the page may stay
  }
  const queued = cache.getMutationCache().getAll();
  if (anyMayBeLost() || queued.some(({ state }) => state.isPaused)) event.preventDefault();
});
// Views have flushed what was being set by then: their listeners were there before.
window.addEventListener('pagehide', leaveAll);

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root element');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <Tips delayDuration={500}>
        <Guarded what="The application">
          <App />
        </Guarded>
        <Notices />
      </Tips>
    </QueryClientProvider>
  </StrictMode>,
);
