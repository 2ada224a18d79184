import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { Bitter_600SemiBold } from '@expo-google-fonts/bitter/600SemiBold';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import { useState } from 'react';
import { GestureHandlerRootView } from 'react-native-gesture-handler';
import { codeOf } from '../data/client';
import { Gate } from '../features/sign-in/gate';
import { LightsProvider } from '../ui/lights';

/** Refused for good: asking again would not change the answer. */
const FINAL = ['not-found', 'signed-out', 'bad-request', 'not-ready'];

const newClient = () =>
  new QueryClient({
    defaultOptions: {
      queries: {
        retry: (count, error) => count < 3 && !FINAL.includes(codeOf(error)),
        networkMode: 'always',
      },
      mutations: { networkMode: 'always' },
    },
  });

const RootLayout = () => {
  const [client] = useState(newClient);
  // The painter sets titles in the family by its own name.
  const [loaded, failed] = useFonts({
    AtkinsonHyperlegible_400Regular,
    AtkinsonHyperlegible_700Bold,
    Bitter_600SemiBold,
    Bitter: Bitter_600SemiBold,
  });
  if (!loaded && !failed) return null;
  return (
    <GestureHandlerRootView style={{ flex: 1 }}>
      <QueryClientProvider client={client}>
        <LightsProvider>
          <Gate>
            <Slot />
          </Gate>
        </LightsProvider>
      </QueryClientProvider>
    </GestureHandlerRootView>
  );
};

export default RootLayout;
