import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { Bitter_600SemiBold } from '@expo-google-fonts/bitter/600SemiBold';
import { useFonts } from 'expo-font';

/** Loads the families where there is no style sheet to name them. @returns whether text can be shown */
export const useFamilies = (): boolean => {
  const [loaded, failed] = useFonts({
    AtkinsonHyperlegible_400Regular,
    AtkinsonHyperlegible_700Bold,
    Bitter_600SemiBold,
    // The painter sets titles in the family by its own name.
    Bitter: Bitter_600SemiBold,
  });
  return loaded || failed !== null;
};
