import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Slot } from 'expo-router';
import { useEffect, useState } from 'react';
import { codeOf } from '../data/client';
import { askAgain } from '../data/queries';
import { Gate } from '../features/sign-in/gate';
import { TeacherText } from '../messages/teacher-text';
import { Button } from '../ui/button';
import { useFamilies } from '../ui/families';
import { LightsProvider } from '../ui/lights';
import { ProblemNotice } from '../ui/notice';
import { Screen } from '../ui/screen';
import { Heading } from '../ui/text';

/** Refused for good: asking again would not change the answer. */
const FINAL = ['not-found', 'signed-out', 'bad-request', 'not-ready'];

const newClient = () =>
  new QueryClient({
    defaultOptions: {
      queries: {
        retry: (count, error) => count < 3 && !FINAL.includes(codeOf(error)),
        // Nobody has to press anything when the server is back.
        refetchInterval: ({ state }) => askAgain(false, state.error),
        networkMode: 'always',
      },
      mutations: { networkMode: 'always' },
    },
  });

/** Once the first page stands, ms. */
const QUIET_MS = 1_500;

/**
 * Each page comes with its own code. The others are fetched when the first one stands, so that the way between them
 * is open also when the server can't be reached.
 */
const fetchTheOthers = () =>
  Promise.all([
    import('./lessons/[lessonId]/record'),
    import('./lessons/[lessonId]/tidy'),
    import('./lessons/[lessonId]/plan'),
    import('./lessons/[lessonId]/last-look'),
    import('./lessons/[lessonId]/hand-out'),
    import('./index'),
    import('../ui/drag-parts'),
    import('mediabunny'),
  ]).catch(() => undefined); // Asked for again where it is needed, and told there.

/** What is shown where a page can't be: its code could not be fetched, or it failed. */
export const ErrorBoundary = ({ error }: { error: Error }) => {
  const unfetched = /loading|import|fetch|chunk/i.test(`${error.name} ${error.message}`);
  useEffect(() => console.error('a page failed', error), [error]);
  return (
    <TeacherText>
      <Screen name="Under Chalk">
        <Heading level={1}>This page could not be shown</Heading>
        <ProblemNotice code={unfetched ? 'server-unreachable' : 'unexpected'}>
          <Button label="Try again" onPress={() => location.reload()} />
        </ProblemNotice>
      </Screen>
    </TeacherText>
  );
};

const RootLayout = () => {
  const [client] = useState(newClient);
  useEffect(() => {
    const quiet = setTimeout(() => void fetchTheOthers(), QUIET_MS);
    return () => clearTimeout(quiet);
  }, []);
  if (!useFamilies()) return null;
  return (
    <QueryClientProvider client={client}>
      <LightsProvider>
        <TeacherText>
          <Gate>
            <Slot />
          </Gate>
        </TeacherText>
      </LightsProvider>
    </QueryClientProvider>
  );
};

export default RootLayout;
