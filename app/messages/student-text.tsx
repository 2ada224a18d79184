import { createContext, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { IntlProvider } from 'react-intl';
import { localeFor, type Language } from '@under-chalk/core/text/student-languages';
import { keepLanguage } from './languages';
import { loadCatalogue, type Catalogue } from './load';

interface Shown {
  readonly language: Language;
  readonly messages: Catalogue;
}

interface LanguageChoice {
  readonly language: Language;
  readonly choose: (language: Language) => void;
}

const LanguageContext = createContext<LanguageChoice>({ language: 'en', choose: () => undefined });

/** The language of a student's page, and how to change it. */
export const useLanguage = (): LanguageChoice => useContext(LanguageContext);

/** Shows students' pages in a language that they can change. */
export const StudentText = ({ first, children }: { first: Shown; children: ReactNode }) => {
  const [shown, setShown] = useState(first);
  const { language, messages } = shown;
  const chosen = useRef(language);
  useEffect(() => {
    document.documentElement.lang = language;
  }, [language]);
  const choose = (wanted: Language) => {
    keepLanguage(wanted);
    chosen.current = wanted;
    // Without a connection the page stays as it is; the choice counts when it is opened again.
    void loadCatalogue(wanted).then(
      (found) => {
        // Arrow keys choose faster than files arrive: only the last choice counts.
        if (chosen.current === wanted) setShown({ language: wanted, messages: found });
      },
      () => undefined,
    );
  };
  return (
    <LanguageContext.Provider value={{ language, choose }}>
      <IntlProvider locale={localeFor(language, navigator.languages)} messages={messages}>
        {children}
      </IntlProvider>
    </LanguageContext.Provider>
  );
};
