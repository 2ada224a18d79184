import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import { watchSchema } from '@under-chalk/core/contract/watch';
import { WatchPage } from '../features/watch/watch-page';

/** What the page was served with: the film is told about at once, and asked about only while it is being made. */
const servedWith = () => {
  const text = document.getElementById('watch-data')?.textContent;
  const read = text ? watchSchema.safeParse(JSON.parse(text)) : null;
  return read?.success ? read.data : undefined;
};

const token = location.pathname.split('/')[2] ?? '';
createRoot(document.getElementById('root')!).render(
  <QueryClientProvider client={new QueryClient()}>
    <WatchPage token={token} served={servedWith()} />
  </QueryClientProvider>,
);
