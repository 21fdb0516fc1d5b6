import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Refusal } from '@/api/client';
import { sessionQuery } from '@/api/queries';
import { Notices, notify } from '@/ui/Notices';
import { App } from './App';
import './theme/theme.css';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && !(error instanceof Refusal && error.status >= 400 && error.status < 500),
    },
    mutations: { onError: (error) => notify(error.message) },
  },
});
client.getQueryCache().subscribe(({ query, type }) => {
  const error = query.state.error;
  if (type === 'updated' && error instanceof Refusal && error.status === 401) {
    client.invalidateQueries({ queryKey: sessionQuery.queryKey });
  }
});

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root element');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <App />
      <Notices />
    </QueryClientProvider>
  </StrictMode>,
);
