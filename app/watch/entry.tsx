import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import type * as z from 'zod';
import { pageContentSchema } from '@under-chalk/core/contract/student-pages';
import { watchSchema } from '@under-chalk/core/contract/watch';
import { preferredLanguage } from '../messages/languages';
import { loadCatalogue } from '../messages/load';
import { StudentText } from '../messages/student-text';
import { StudentPageScreen } from '../features/student-page/student-page';
import { WatchPage } from '../features/watch/watch-page';

/** What the page was served with: it is told about at once, and asked about only where it changes. */
const servedWith = <T extends z.ZodType>(id: string, schema: T): z.infer<T> | undefined => {
  const text = document.getElementById(id)?.textContent;
  const read = text ? schema.safeParse(JSON.parse(text)) : null;
  return read?.success ? read.data : undefined;
};

const [, page, token = ''] = location.pathname.split('/');
const language = preferredLanguage();
const messages = await loadCatalogue(language);
createRoot(document.getElementById('root')!).render(
  <QueryClientProvider client={new QueryClient()}>
    <StudentText first={{ language, messages }}>
      {page === 's' ? (
        <StudentPageScreen
          pageKey={token}
          served={servedWith('pageContent-data', pageContentSchema)}
        />
      ) : (
        <WatchPage token={token} served={servedWith('watch-data', watchSchema)} />
      )}
    </StudentText>
  </QueryClientProvider>,
);
