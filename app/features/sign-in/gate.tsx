import { Redirect, usePathname, type Href } from 'expo-router';
import type { ReactNode } from 'react';
import { codeOf } from '../../data/client';
import { useSession } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Failed, Loading, Screen } from '../../ui/screen';
import { CatchUpProvider } from '../record/unfinished';

/** Lets the teacher in, students to their films, and everybody else to the sign-in page. */
export const Gate = ({ children }: { children: ReactNode }) => {
  const path = usePathname();
  const open = path.startsWith('/w/') || path.startsWith('/s/') || path === '/sign-in';
  return open ? children : <TeacherOnly>{children}</TeacherOnly>;
};

const TeacherOnly = ({ children }: { children: ReactNode }) => {
  const session = useSession();
  const { t } = useTeacherText();
  const path = usePathname();
  if (session.data) {
    return session.data.signedIn ? (
      <CatchUpProvider>{children}</CatchUpProvider>
    ) : (
      <Redirect href={`/sign-in?to=${encodeURIComponent(path)}` as Href} />
    );
  }
  return (
    <Screen name={t('signIn.app')} fleeting>
      {session.error ? (
        <Failed code={codeOf(session.error)} onRetry={() => void session.refetch()} />
      ) : (
        <Loading />
      )}
    </Screen>
  );
};
